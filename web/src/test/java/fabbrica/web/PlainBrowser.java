package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** A browser without scripts: follows nothing by itself, keeps cookies, fills in forms with their tokens. */
public final class PlainBrowser {

    public static final String BOUNDARY = "fabbrica-test-boundary";

    private final String address;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();

    public PlainBrowser(String address) {
        this.address = address;
    }

    public HttpResponse<String> get(String path) throws IOException, InterruptedException {
        return client.send(HttpRequest.newBuilder(URI.create(address + path)).build(), BodyHandlers.ofString());
    }

    /** Opens the page of a form and sends the form. */
    public HttpResponse<String> submit(String page, String fields) throws IOException, InterruptedException {
        String csrf = URLEncoder.encode(hidden(get(page).body(), "_csrf"), StandardCharsets.UTF_8);
        return client.send(HttpRequest.newBuilder(URI.create(address + page))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(BodyPublishers.ofString(fields + "&_csrf=" + csrf)).build(), BodyHandlers.ofString());
    }

    public void signIn(String username, String password) throws IOException, InterruptedException {
        HttpResponse<String> answer = submit("/sign-in", "username=" + username + "&password="
                + URLEncoder.encode(password, StandardCharsets.UTF_8));
        assertThat(answer.headers().firstValue("Location").orElseThrow()).doesNotContain("sign-in");
    }

    /** A file handed over at the Counter; the content is asked for when it is sent. */
    public HttpRequest upload(HttpRequest.BodyPublisher body) throws IOException, InterruptedException {
        return HttpRequest.newBuilder(URI.create(address + "/counter"))
                .header("Content-Type", "multipart/form-data; boundary=" + BOUNDARY)
                .header("X-CSRF-TOKEN", hidden(get("/counter").body(), "_csrf")).POST(body).build();
    }

    public HttpClient client() {
        return client;
    }

    /** As a request of one's own making has to send them. */
    public String cookies() {
        List<HttpCookie> all = cookies.getCookieStore().getCookies();
        return all.stream().map(cookie -> cookie.getName() + "=" + cookie.getValue()).collect(Collectors.joining("; "));
    }

    /** The value of a hidden field. */
    public static String hidden(String page, String name) {
        Matcher input = Pattern.compile("name=\"" + name + "\"[^>]*value=\"([^\"]+)\"").matcher(page);
        assertThat(input.find()).as("a hidden field " + name).isTrue();
        return input.group(1);
    }
}
