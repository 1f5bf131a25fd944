package fabbrica.web.plan;

import fabbrica.core.estimate.Course;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.Milestones;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The layers of a plan, or of a file sliced elsewhere, to be looked through. */
@Controller
@RequestMapping({"/tickets/{id}/plans/{planId}", "/plates/{plate}", "/sliced/{file}"})
class LayersController {

    /** Points of outlines that a browser turns in space without effort. */
    private static final int MOST_IN_SPACE = 500_000;

    private final Tickets tickets;
    private final Plans plans;
    private final Planning planning;
    private final Plates plates;
    private final LaidLayers layers;
    private final SlicedFiles sliced;
    private final Inventory inventory;

    LayersController(Tickets tickets, Plans plans, Planning planning, Plates plates, LaidLayers layers, SlicedFiles sliced, Inventory inventory) {
        this.tickets = tickets;
        this.plans = plans;
        this.planning = planning;
        this.plates = plates;
        this.layers = layers;
        this.sliced = sliced;
        this.inventory = inventory;
    }

    /** Where layers come from, and where their page leads back to. */
    record From(LaidLayers.Source source, String name, Printer printer, String address, String back, String query) {
    }

    /** @param types that are laid somewhere */
    record FilmPage(From from, List<Milestones.Milestone> milestones, List<Layer> layers, List<PathType> types) {

        /** Whether they are shown at first. */
        public boolean shown(PathType type) {
            return type != PathType.TRAVEL;
        }
    }

    /** @param fraction of the layers that are laid, 0 to 1 */
    record LayingPage(From from, double fraction) {
    }

    /** Why nothing is laid any more. */
    record OverPage(From from, String sentence) {
    }

    /** While a large part is being laid the page says so and asks again. */
    @GetMapping("/layers")
    String layers(@PathVariable Map<String, String> place, @RequestParam MultiValueMap<String, String> values, Model page) {
        From from = from(place, values);
        return switch (layers.ask(from.source())) {
            case Standing.Done<LaidLayers.Drawn>(LaidLayers.Drawn drawn) -> {
                page.addAttribute("page", new FilmPage(from, drawn.milestones(), drawn.toolpath().layers(),
                        Arrays.stream(PathType.values()).filter(type -> drawn.toolpath().lengthMm(type) > 0).toList()));
                yield "plan/layers";
            }
            case Standing.Working<LaidLayers.Drawn> working -> {
                page.addAttribute("page", new LayingPage(from, working.fraction()));
                yield "plan/laying";
            }
            case Standing.Failed<LaidLayers.Drawn>(String sentence) -> throw new Refusal(sentence);
        };
    }

    /** Asked by the page that waits: loads it anew once the layers are laid, and says so when they cannot be. */
    @GetMapping("/layers/ready")
    String ready(@PathVariable Map<String, String> place, @RequestParam MultiValueMap<String, String> values,
                 HttpServletResponse response, Model page) {
        From from = from(place, values);
        return switch (layers.ask(from.source())) {
            case Standing.Done<LaidLayers.Drawn> done -> {
                response.setHeader("HX-Refresh", "true");
                page.addAttribute("page", new LayingPage(from, 1));
                yield "plan/laying :: waiting";
            }
            case Standing.Working<LaidLayers.Drawn> working -> {
                page.addAttribute("page", new LayingPage(from, working.fraction()));
                yield "plan/laying :: waiting";
            }
            case Standing.Failed<LaidLayers.Drawn>(String sentence) -> {
                page.addAttribute("page", new OverPage(from, sentence));
                yield "plan/laying :: over";
            }
        };
    }

    /** @param course null while it is worked out */
    record CoursePage(From from, @Nullable Course course, String strip) {
    }

    /** The course of the print from its first to its last minute, asked for again while it is worked out. */
    @GetMapping("/layers/course")
    String course(@PathVariable Map<String, String> place, @RequestParam MultiValueMap<String, String> values, Model page) {
        From from = from(place, values);
        return switch (layers.ask(from.source())) {
            case Standing.Done<LaidLayers.Drawn>(LaidLayers.Drawn drawn) -> {
                if (drawn.seconds().isEmpty()) {
                    page.addAttribute("page", new OverPage(from, "A file that was sliced elsewhere does not say what happens when."));
                    yield "plan/laying :: over";
                }
                Course course = Course.of(drawn.phases(), drawn.seconds(), drawn.milestones());
                page.addAttribute("page", new CoursePage(from, course, CourseStrip.of(course)));
                yield "plan/laying :: course";
            }
            case Standing.Working<LaidLayers.Drawn> working -> {
                page.addAttribute("page", new CoursePage(from, null, ""));
                yield "plan/laying :: course";
            }
            case Standing.Failed<LaidLayers.Drawn>(String sentence) -> throw new Refusal(sentence);
        };
    }

    @PostMapping("/layers/stop")
    String stop(@PathVariable Map<String, String> place, @RequestParam MultiValueMap<String, String> values, Model page) {
        From from = from(place, values);
        layers.stop(from.source());
        page.addAttribute("page", new OverPage(from, "Stopped."));
        return "plan/laying :: over";
    }

    /** All there is to know before any layer is drawn. */
    @GetMapping("/layers/outline")
    @ResponseBody
    Map<String, Object> outline(@PathVariable Map<String, String> place, @RequestParam MultiValueMap<String, String> values) {
        LaidLayers.Drawn drawn = drawn(place, values);
        List<Layer> layers = drawn.toolpath().layers();
        return Map.of("tops", layers.stream().map(layer -> Spoken.number(layer.topMm(), 3)).toList(),
                "seconds", drawn.seconds(), "box", box(layers),
                "types", Arrays.stream(PathType.values()).map(PathType::code).toList());
    }

    /**
     * One layer, little-endian: for each path, or stretch of one that is about equally wide, the type, whether it is drawn
     * back (both int32), width, speed and flow, the number of points (int32) and x, y of each; other numbers are float32.
     */
    @GetMapping("/layers/{number}")
    void layer(@PathVariable Map<String, String> place, @PathVariable int number,
               @RequestParam MultiValueMap<String, String> values, HttpServletResponse response) throws IOException {
        LaidLayers.Drawn drawn = drawn(place, values);
        if (number < 0 || number >= drawn.toolpath().layers().size()) {
            throw new NoSuchElementException();
        }
        Layer layer = drawn.toolpath().layers().get(number);
        double[] speeds = drawn.speeds().get(number);
        ByteBuffer bytes = ByteBuffer.allocate(24 * layer.pathCount() + 40 * layer.pointCount()).order(ByteOrder.LITTLE_ENDIAN);
        for (int path = 0; path < layer.pathCount(); path++) {
            for (int from = layer.start(path), to; from < layer.end(path) - 1; from = to) {
                to = layer.evenUntil(path, from);
                double area = layer.lineAreaMm2(path, to);
                bytes.putInt(layer.type(path).ordinal()).putInt(layer.retracted(path) ? 1 : 0)
                        .putFloat((float) layer.widthMm(path, to)).putFloat((float) speeds[path])
                        .putFloat((float) (speeds[path] * area)).putInt(to + 1 - from);
                for (int i = from; i <= to; i++) {
                    bytes.putFloat((float) layer.x(i)).putFloat((float) layer.y(i));
                }
            }
        }
        send(bytes, response);
    }

    /** Line segments of the outer walls and supports of evenly spread layers: x, y, z of both ends as float32, then 1 for supports. */
    @GetMapping("/layers/stack")
    void stack(@PathVariable Map<String, String> place, @RequestParam MultiValueMap<String, String> values,
               HttpServletResponse response) throws IOException {
        List<Layer> layers = drawn(place, values).toolpath().layers();
        int points = layers.stream().mapToInt(LayersController::wallPoints).sum();
        int every = Math.max(1, points / MOST_IN_SPACE + 1);
        ByteBuffer bytes = ByteBuffer.allocate(28 * (points / every + layers.stream().mapToInt(LayersController::wallPoints)
                .max().orElse(0) + 16) ).order(ByteOrder.LITTLE_ENDIAN);
        for (int l = 0; l < layers.size(); l += every) {
            Layer layer = layers.get(l);
            if (bytes.remaining() < 28 * wallPoints(layer)) {
                break;
            }
            for (int path = 0; path < layer.pathCount(); path++) {
                for (int i = layer.start(path) + 1; inSpace(layer.type(path)) && i < layer.end(path); i++) {
                    bytes.putFloat((float) layer.x(i - 1)).putFloat((float) layer.y(i - 1)).putFloat((float) layer.topMm())
                            .putFloat((float) layer.x(i)).putFloat((float) layer.y(i)).putFloat((float) layer.topMm())
                            .putFloat(layer.type(path) == PathType.OUTER_WALL ? 0 : 1);
                }
            }
        }
        send(bytes, response);
    }

    private LaidLayers.Drawn drawn(Map<String, String> place, MultiValueMap<String, String> values) {
        return layers.of(from(place, values).source());
    }

    /** @param place the variables of the address: the ticket's id, or the file's */
    private From from(Map<String, String> place, MultiValueMap<String, String> values) {
        if (place.containsKey("file")) {
            SlicedFile file = sliced.file(Long.parseLong(place.get("file")));
            String printer = values.getFirst("printer");
            Printer on = inventory.printer(String.valueOf(printer)).orElseThrow().printer();
            return new From(layers.source(file.sha256(), on), file.name(), on,
                    "/sliced/%d/layers".formatted(file.id()), "/tickets/%d/sliced".formatted(file.ticketId()), "printer=" + printer);
        }
        if (place.containsKey("plate")) {
            LaidPlate laid = plates.plate(Long.parseLong(place.get("plate")));
            StockPrinter stock = inventory.printer(laid.plan().printerId()).orElseThrow();
            Material material = planning.spool(laid.plan().entry()).flatMap(spool -> inventory.material(spool.spool().materialId())).orElseThrow();
            return new From(layers.source(new Shop.Request(laid.plate(), laid.plan().on(stock.printer()), material)), laid.name(), stock.printer(),
                    "/plates/%d/layers".formatted(laid.id()), "/plates/" + laid.id(), "");
        }
        Planning.CarriedOut out = planning.carriedOut(tickets.ticket(Long.parseLong(place.get("id"))),
                plans.plan(Long.parseLong(place.get("planId"))));
        return new From(layers.source(new Shop.Request(out.plates().getFirst(), out.printer(), out.material())), out.ticket().model().name(),
                out.printer(), "/tickets/%d/plans/%d/layers".formatted(out.ticket().id(), out.plan().id()),
                "/tickets/%d?plan=%d#preview".formatted(out.ticket().id(), out.plan().id()), "");
    }

    private static boolean inSpace(PathType type) {
        return type == PathType.OUTER_WALL || type == PathType.SUPPORT || type == PathType.OTHER;
    }

    private static int wallPoints(Layer layer) {
        int points = 0;
        for (int path = 0; path < layer.pathCount(); path++) {
            points += inSpace(layer.type(path)) ? layer.end(path) - layer.start(path) : 0;
        }
        return points;
    }

    private static double[] box(List<Layer> layers) {
        double[] box = {Double.MAX_VALUE, Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
        for (Layer layer : layers) {
            for (int i = 0; i < layer.pointCount(); i++) {
                box[0] = Math.min(box[0], layer.x(i));
                box[1] = Math.min(box[1], layer.y(i));
                box[2] = Math.max(box[2], layer.x(i));
                box[3] = Math.max(box[3], layer.y(i));
            }
        }
        return box[0] > box[2] ? new double[4] : box;
    }

    private static void send(ByteBuffer bytes, HttpServletResponse response) throws IOException {
        response.setContentType("application/octet-stream");
        response.setHeader(HttpHeaders.CACHE_CONTROL, "private, max-age=300");
        response.setContentLength(bytes.position());
        response.getOutputStream().write(bytes.array(), 0, bytes.position());
    }
}
