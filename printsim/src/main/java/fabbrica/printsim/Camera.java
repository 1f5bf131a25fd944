package fabbrica.printsim;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import fabbrica.core.gcode.GcodeLayers;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.Layer;
import fabbrica.printsim.SimulatedPrinter.Standing;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.function.Supplier;
import javax.imageio.ImageIO;

/** A camera over the bed that answers with a picture of it over HTTP. */
final class Camera implements Closeable {

    private final Printer figures;
    private final Card card;
    private final Supplier<Standing> standing;
    private final Picture picture;
    private final HttpServer server;
    /** Layers of the file that was looked at last. */
    private Seen seen = new Seen("", List.of());

    private record Seen(String file, List<Layer> layers) {
    }

    Camera(Printer figures, Card card, Supplier<Standing> standing) throws IOException {
        this.figures = figures;
        this.card = card;
        this.standing = standing;
        this.picture = new Picture(figures.bed());
        this.server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
        server.createContext("/picture.png", this::answer);
        server.start();
    }

    int port() {
        return server.getAddress().getPort();
    }

    private void answer(HttpExchange exchange) throws IOException {
        try (exchange) {
            ByteArrayOutputStream png = new ByteArrayOutputStream();
            ImageIO.write(look(), "png", png);
            exchange.getResponseHeaders().set("Content-Type", "image/png");
            exchange.sendResponseHeaders(200, png.size());
            png.writeTo(exchange.getResponseBody());
        }
    }

    private synchronized BufferedImage look() throws IOException {
        Standing at = standing.get();
        if (!at.file().isEmpty() && !at.file().equals(seen.file())) {
            byte[] file = card.read(at.file()).orElse(new byte[0]);
            seen = new Seen(at.file(), GcodeLayers.of(new ByteArrayInputStream(file), figures).toolpath().layers());
        }
        return picture.of(at.file().isEmpty() ? List.of() : seen.layers(), at.laid(), at.looseAt() > 0 ? at.looseAt() - 1 : Integer.MAX_VALUE);
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
