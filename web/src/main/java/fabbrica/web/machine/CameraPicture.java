package fabbrica.web.machine;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;

/** Asks a camera over a bed for what it sees now. */
final class CameraPicture {

    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final int MOST_BYTES = 8 << 20;
    private static final byte[] PNG = {(byte) 0x89, 'P', 'N', 'G'};
    private static final HttpClient CLIENT = HttpClient.newBuilder().connectTimeout(PATIENCE).build();

    private CameraPicture() {
    }

    /** A PNG; nothing when there is no camera, or it does not answer. */
    static Optional<byte[]> of(MachineAddress address) {
        if (address.cameraPort() == null) {
            return Optional.empty();
        }
        try {
            HttpResponse<byte[]> answer = CLIENT.send(HttpRequest.newBuilder(URI.create("http://%s:%d/picture.png".formatted(address.host(), address.cameraPort())))
                    .timeout(PATIENCE).build(), BodyHandlers.limiting(BodyHandlers.ofByteArray(), MOST_BYTES));
            byte[] picture = answer.body();
            return answer.statusCode() == 200 && picture.length > PNG.length && Arrays.equals(picture, 0, PNG.length, PNG, 0, PNG.length)
                    ? Optional.of(picture) : Optional.empty();
        } catch (IOException | IllegalArgumentException e) {
            return Optional.empty();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
    }
}
