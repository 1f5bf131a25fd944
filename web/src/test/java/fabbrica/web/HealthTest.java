package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.ConnectException;
import java.net.Inet4Address;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.NetworkInterface;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;

/** What the machine itself is told of whether all is well. */
class HealthTest {

    @TempDir
    private static Path folder;
    private static ConfigurableApplicationContext lab;

    @BeforeAll
    static void start() {
        lab = FabbricaApplication.application().run("--server.port=0", "--management.server.port=0", "--fabbrica.data=" + folder);
    }

    @AfterAll
    static void stop() {
        lab.close();
    }

    @Test
    void the_machine_itself_is_told_whether_all_is_well_and_nothing_else() throws Exception {
        HttpResponse<String> health = get("127.0.0.1", healthPort(), "/actuator/health");
        assertThat(health.statusCode()).isEqualTo(200);
        assertThat(health.body()).contains("\"status\":\"UP\"", "\"db\"", "\"diskSpace\"");
        assertThat(get("127.0.0.1", healthPort(), "/actuator/env").statusCode()).isNotEqualTo(200);
        assertThat(get("127.0.0.1", healthPort(), "/counter").statusCode()).isNotEqualTo(200);
        assertThat(get("127.0.0.1", port("local.server.port"), "/actuator/health").statusCode()).as("on the port of the pages").isEqualTo(404);
    }

    @Test
    void other_machines_find_nobody_at_the_port_of_health() throws IOException {
        List<InetAddress> others = NetworkInterface.networkInterfaces().flatMap(NetworkInterface::inetAddresses)
                .filter(address -> address instanceof Inet4Address && !address.isLoopbackAddress()).toList();
        for (InetAddress address : others) {
            assertThatThrownBy(() -> connect(address)).isInstanceOf(ConnectException.class);
        }
        assertThatThrownBy(() -> connect(InetAddress.getByName("127.0.0.2"))).as("another address of this machine")
                .isInstanceOf(ConnectException.class);
    }

    private static void connect(InetAddress address) throws IOException {
        try (Socket socket = new Socket()) {
            socket.connect(new InetSocketAddress(address, healthPort()), 5000);
        }
    }

    private static HttpResponse<String> get(String host, int port, String path) throws IOException, InterruptedException {
        return HttpClient.newHttpClient().send(HttpRequest.newBuilder(URI.create("http://%s:%d%s".formatted(host, port, path))).build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private static int healthPort() {
        return port("local.management.port");
    }

    private static int port(String name) {
        return lab.getEnvironment().getRequiredProperty(name, Integer.class);
    }
}
