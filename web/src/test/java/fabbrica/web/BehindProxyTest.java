package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;

/** A server that is told to believe the proxy in front of it, as the README says. */
class BehindProxyTest {

    @TempDir
    private static Path folder;
    private static ConfigurableApplicationContext lab;

    @BeforeAll
    static void start() {
        lab = FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + folder, "--server.forward-headers-strategy=native");
    }

    @AfterAll
    static void stop() {
        lab.close();
    }

    @Test
    void cookies_over_tls_are_never_sent_without_it_nor_from_other_sites() throws Exception {
        assertThat(cookies("https")).isNotEmpty().allSatisfy(cookie -> assertThat(cookie).contains("; Secure", "; HttpOnly", "SameSite=Lax"));
        assertThat(cookies("http")).isNotEmpty().noneMatch(cookie -> cookie.contains("Secure"));
    }

    @Test
    void who_is_sent_on_is_sent_to_the_address_they_know() throws Exception {
        HttpRequest request = request("https", "/counter").build();
        String next = HttpClient.newHttpClient().send(request, BodyHandlers.discarding()).headers().firstValue("Location").orElseThrow();
        assertThat(URI.create("https://lab.example/counter").resolve(next)).isEqualTo(URI.create("https://lab.example/sign-in"));
    }

    private static List<String> cookies(String protocol) throws Exception {
        return HttpClient.newHttpClient().send(request(protocol, "/setup").build(), BodyHandlers.discarding()).headers().allValues("Set-Cookie");
    }

    private static HttpRequest.Builder request(String protocol, String path) {
        String port = lab.getEnvironment().getRequiredProperty("local.server.port");
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path)).header("X-Forwarded-Proto", protocol)
                .header("X-Forwarded-For", "192.0.2.7").header("X-Forwarded-Host", "lab.example")
                .header("X-Forwarded-Port", protocol.equals("https") ? "443" : "80");
    }
}
