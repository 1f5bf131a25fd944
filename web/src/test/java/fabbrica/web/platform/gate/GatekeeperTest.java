package fabbrica.web.platform.gate;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.PlainBrowser;
import jakarta.servlet.http.Part;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.mock.web.MockFilterChain;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.SecurityContextImpl;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;

/** Requests as no browser sends them. */
@DemoLabTest
class GatekeeperTest {

    private static final int MB = 1 << 20;
    private static final int MANY = 500;

    @LocalServerPort
    private int port;
    private PlainBrowser browser;

    @BeforeEach
    void browser() {
        browser = new PlainBrowser("http://localhost:" + port);
    }

    @Test
    void who_may_not_send_a_file_is_turned_away_before_it_is_read() throws Exception {
        assertThat(answer(upload("/counter", "", 150 * MB))).startsWith("HTTP/1.1 401").contains("Your session is over");
        browser.signIn("june", "demo-member");
        assertThat(answer(upload("/counter", browser.cookies(), 150 * MB))).startsWith("HTTP/1.1 403")
                .contains("Your account may not do this");
        assertThat(answer(upload("/tickets/1/sliced", browser.cookies(), 150 * MB))).startsWith("HTTP/1.1 403");
    }

    @Test
    void a_file_for_which_the_disk_has_no_room_is_not_called_slow() throws Exception {
        MockHttpServletResponse response = new MockHttpServletResponse();
        new Gatekeeper(() -> MB, new Hands()).doFilter(broken("No space left on device"), response, new MockFilterChain());
        assertThat(response.getStatus()).isEqualTo(507);
        assertThat(response.getForwardedUrl()).isEqualTo("/error");
    }

    @Test
    void nobody_is_answered_who_has_hung_up() throws Exception {
        MockHttpServletResponse response = new MockHttpServletResponse();
        response.setCommitted(true);
        new Gatekeeper(() -> MB, new Hands()).doFilter(broken("Connection reset"), response, new MockFilterChain());
        assertThat(response.getForwardedUrl()).isNull();
    }

    /** A helper's file whose reading fails. */
    private static MockHttpServletRequest broken(String why) {
        MockHttpServletRequest request = new MockHttpServletRequest("POST", "/counter") {
            @Override
            public Collection<Part> getParts() throws IOException {
                throw new IOException("Processing of multipart/form-data request failed. " + why, new IOException(why));
            }
        };
        request.setServletPath("/counter");
        request.setContentType("multipart/form-data; boundary=x");
        request.setContent(new byte[100]);
        request.getSession().setAttribute(HttpSessionSecurityContextRepository.SPRING_SECURITY_CONTEXT_KEY, new SecurityContextImpl(
                UsernamePasswordAuthenticationToken.authenticated("tomas", "", AuthorityUtils.createAuthorityList("ROLE_HELPER"))));
        return request;
    }

    @Test
    void more_than_the_lab_takes_in_is_turned_away_before_it_is_read() throws Exception {
        browser.signIn("tomas", "demo-helper");
        assertThat(answer(upload("/counter", browser.cookies(), 900 * MB))).startsWith("HTTP/1.1 413")
                .contains("more than this lab takes in");
        assertThat(answer(upload("/members/0", browser.cookies(), 5 * MB))).startsWith("HTTP/1.1 413");
        assertThat(answer(upload("/sign-in", "", 5 * MB))).startsWith("HTTP/1.1 413");
        assertThat(answer(upload("/counter", browser.cookies(), MB).replaceFirst("Content-Length: \\d+", "Transfer-Encoding: chunked")))
                .startsWith("HTTP/1.1 411");
        assertThat(answer(form("/members/0", browser.cookies(), 5 * MB))).startsWith("HTTP/1.1 413");
        assertThat(answer(form("/sign-in", "", 5 * MB))).startsWith("HTTP/1.1 413");
    }

    @ParameterizedTest
    @ValueSource(strings = {"é", "ж", "س", "模", "한", "𝒳"})
    void names_of_150_letters_in_any_script_are_kept(String letter) throws Exception {
        browser.signIn("mira", "demo-coordinator");
        String name = letter.repeat(150);
        ByteArrayOutputStream body = new ByteArrayOutputStream();
        body.writeBytes(("--" + PlainBrowser.BOUNDARY + "\r\nContent-Disposition: form-data; name=\"token\"\r\n\r\n" + UUID.randomUUID()
                + "\r\n--" + PlainBrowser.BOUNDARY + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"" + name + ".stl\"\r\n"
                + "Content-Type: model/stl\r\n\r\n").getBytes(StandardCharsets.UTF_8));
        body.writeBytes(Files3d.stl(Shapes.box(10, 10, 10)));
        body.writeBytes(("\r\n--" + PlainBrowser.BOUNDARY + "--\r\n").getBytes(StandardCharsets.US_ASCII));
        HttpResponse<String> taken = browser.client().send(browser.upload(BodyPublishers.ofByteArray(body.toByteArray())),
                BodyHandlers.ofString());
        String ticket = URI.create(taken.headers().firstValue("Location").orElseThrow()).getPath();
        HttpResponse<String> export = browser.get(ticket + "/gauge/part.3mf");
        assertThat(export.headers().firstValue("Content-Disposition").orElseThrow())
                .contains(URLEncoder.encode(name, StandardCharsets.UTF_8));
        for (int tries = 0; tries < 600 && !browser.get(ticket).body().contains("● Prints"); tries++) {
            Thread.sleep(100);
        }
        assertThat(browser.get(ticket).body()).contains(name + ".stl", "● Prints");
    }

    @Test
    void headers_without_end_are_refused() throws IOException {
        assertThat(answer("GET / HTTP/1.1\r\nHost: x\r\nX-Long: " + "y".repeat(60_000))).startsWith("HTTP/1.1 4");
    }

    @Test
    void five_hundred_who_send_slowly_take_no_hand() throws Exception {
        browser.signIn("mira", "demo-coordinator");
        List<Socket> slow = new ArrayList<>();
        try {
            for (int i = 0; i < MANY; i++) {
                Socket socket = new Socket("localhost", port);
                slow.add(socket);
                String request = i % 2 == 0 ? form("/sign-in", "", 5000) : upload("/counter", browser.cookies(), MB);
                socket.getOutputStream().write((request + "username=").getBytes(StandardCharsets.US_ASCII));
            }
            for (int i = 0; i < 5; i++) {
                assertThat(browser.get("/counter").body()).contains("Drop files here");
                assertThat(browser.get("/floor").statusCode()).isEqualTo(200);
            }
            assertThat(Thread.getAllStackTraces().keySet()).as("hands").filteredOn(thread -> thread.getName().startsWith("hand-"))
                    .hasSizeLessThan(MANY / 5);
        } finally {
            for (Socket socket : slow) {
                socket.close();
            }
        }
    }

    private static String upload(String path, String cookies, int bytes) {
        return "POST " + path + " HTTP/1.1\r\nHost: localhost\r\nAccept: text/html\r\nCookie: " + cookies
                + "\r\nContent-Type: multipart/form-data; boundary=b\r\nContent-Length: " + bytes + "\r\n\r\n--b\r\n";
    }

    private static String form(String path, String cookies, int bytes) {
        return "POST " + path + " HTTP/1.1\r\nHost: localhost\r\nAccept: text/html\r\nCookie: " + cookies
                + "\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: " + bytes + "\r\n\r\n";
    }

    /** Sends what is given, nothing more, and reads the page that answers. */
    private String answer(String request) throws IOException {
        try (Socket socket = new Socket("localhost", port)) {
            socket.setSoTimeout(60_000);
            socket.getOutputStream().write(request.getBytes(StandardCharsets.US_ASCII));
            StringBuilder answer = new StringBuilder();
            for (int next = socket.getInputStream().read(); next >= 0 && answer.indexOf("</html>") < 0;
                    next = socket.getInputStream().read()) {
                answer.append((char) next);
            }
            return answer.toString();
        }
    }
}
