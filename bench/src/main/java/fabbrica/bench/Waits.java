package fabbrica.bench;

import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.StartingPoint;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * How long somebody at the counter waits for a verdict on knobbly spheres of 20,000 to a million triangles, and for the steps of a ticket
 * from turned parts of 10,000 to 98,000, each its own; and whoever plans for a floor plan: medians, beside bars for a machine on which
 * admesh checks the knobbly sphere in 0.8 s, measured in the same run.
 */
public final class Waits {

    private static final int TIMES = 5;
    private static final double REFERENCE_S = 0.8;
    private static final int[][] SIZES = {{60, 84}, {100, 200}, {140, 350}};
    /** How fine knobbly spheres are, with the bars of their verdicts in seconds. */
    private static final Map<Integer, Double> SPHERES = new TreeMap<>(Map.of(71, 0.25, 159, 0.6, 500, 2.5));
    /** As long nothing was worked out before somebody hands over the next sphere. */
    private static final long QUIET_NS = 1_500_000_000;
    private static final String VERDICT = "verdict, from the last byte";

    private final HttpClient browser = Load.browser();
    /** When the server last told that something was worked out. */
    private final AtomicLong worked = new AtomicLong(System.nanoTime());
    private final String address;
    private final Map<String, Double> bars = new LinkedHashMap<>();
    private final Map<String, List<Double>> took = new LinkedHashMap<>();
    private String csrf = "";

    private Waits(String address) {
        this.address = address;
        bars.put("verdict, from the drop", 1.0);
        bars.put("first estimate, from the drop", 2.0);
        bars.put("all printers", 4.0);
        bars.put("ways to lie", 3.0);
        bars.put("a changed plan", 0.5);
        bars.put("a plate of 12", 2.0);
        bars.put("a first floor plan", 1.0);
        bars.put("mended, a printer down", 2.0);
    }

    /** @param arguments the address of a demo */
    public static void main(String[] arguments) throws Exception {
        Waits waits = new Waits(arguments[0]);
        double reference = Load.referenceSeconds();
        Load.signIn(waits.browser, waits.address, "mira", "demo-coordinator");
        System.out.printf("admesh checks the knobbly sphere in %.2f s; times are medians of %d%n%-32s %10s %10s %10s %8s%n", reference, TIMES,
                "wait", "triangles", "measured", "at 0.8 s", "bar");
        Thread.ofVirtual().start(waits::follow);
        for (Map.Entry<Integer, Double> sphere : SPHERES.entrySet()) {
            int n = sphere.getKey();
            waits.bars.put(VERDICT, sphere.getValue());
            for (int i = -2; i < TIMES; i++) {
                waits.verdict(n, i);
            }
            waits.report(4 * n * (n - 1), reference);
            waits.took.clear();
        }
        for (int[] size : SIZES) {
            waits.took.clear();
            for (int i = -1; i < TIMES; i++) {
                waits.ticket(size, i);
            }
            waits.report(2 * size[0] * size[1], reference);
        }
        waits.took.clear();
        for (int i = -1; i < TIMES; i++) {
            waits.floor(i);
        }
        waits.report(0, reference);
    }

    private void report(int triangles, double reference) {
        took.forEach((what, all) -> {
            double median = all.stream().sorted().skip(all.size() / 2).findFirst().orElseThrow(), scaled = median * REFERENCE_S / reference;
            double bar = bars.getOrDefault(what, Double.NaN);
            System.out.printf("%-32s %10d %8.2f s %8.2f s %6.2f s%s%n", what, triangles, median, scaled, bar, scaled > bar ? "  too slow" : "");
        });
    }

    /** A wavy pot on a broad foot. */
    private static Mesh pot(int[] size, double radius) {
        double[] profile = new double[2 * size[0] + 2];
        for (int i = 1; i < size[0]; i++) {
            double height = 45.0 * (i - 1) / (size[0] - 2);
            profile[2 * i] = radius + 2 * Math.sin(height / 4);
            profile[2 * i + 1] = height;
        }
        profile[2 * size[0] + 1] = 45;
        return Shapes.revolution(profile, size[1]);
    }

    /** Follows what the server tells open pages; it ends a stream after a while. */
    private void follow() {
        while (true) {
            try (Stream<String> told = browser.send(HttpRequest.newBuilder(URI.create(address + "/live")).build(), HttpResponse.BodyHandlers.ofLines()).body()) {
                told.filter("event:worked"::equals).forEach(line -> worked.set(System.nanoTime()));
            } catch (IOException | InterruptedException | UncheckedIOException e) {
                return;
            }
        }
    }

    /** Returns once something was worked out after {@code since}. */
    private void told(long since) throws InterruptedException {
        while (worked.get() - since < 0) {
            Thread.sleep(5);
        }
    }

    /** While the part is measured its page asks whenever it is told that something was worked out, and comes anew when it is over. */
    private void verdict(int n, int time) throws Exception {
        while (System.nanoTime() - worked.get() < QUIET_NS) {
            Thread.sleep(50);
        }
        Drop drop = drop(Spheres.knobbly(n).scaled(1 + 0.001 * time));
        AtomicLong lastByte = new AtomicLong();
        HttpRequest.BodyPublisher body = HttpRequest.BodyPublishers.ofInputStream(() -> new ByteArrayInputStream(drop.body) {
            @Override
            public int read(byte[] into, int from, int length) {
                int read = super.read(into, from, length);
                lastByte.compareAndSet(0, read < 0 ? System.nanoTime() : 0);
                return read;
            }
        });
        String ticket = handOver(drop.builder.POST(HttpRequest.BodyPublishers.fromPublisher(body, drop.body.length)).build());
        while (!get(ticket).contains("class=\"verdict\"")) {
            do {
                told(System.nanoTime());
            } while (Load.get(browser, address, ticket + "/measured").headers().firstValue("HX-Refresh").isEmpty());
        }
        note(VERDICT, lastByte.get(), time);
    }

    /** @param time less than nothing to warm up */
    private void ticket(int[] size, int time) throws Exception {
        Mesh pot = pot(size, 15 + 0.1 * time);
        HttpRequest drop = drop(pot).request();
        long dropped = System.nanoTime();
        String ticket = handOver(drop);
        String page = until(() -> get(ticket), answer -> answer.contains("class=\"verdict\""));
        note("verdict, from the drop", dropped, time);
        until(() -> get(ticket + "/promise"), answer -> !answer.contains("<div hx-get"));
        note("first estimate, from the drop", dropped, time);
        timed("all printers", time, () -> get(ticket + "/estimates"), answer -> !answer.contains("<progress"));
        timed("ways to lie", time, () -> get(ticket + "/gauge/poses"), answer -> !answer.contains("working…"));
        send(ticket + "/accept", "memberName=June+Abara&purpose=EVERYDAY&quantity=1&seen=" + seen(page));
        until(() -> preview(ticket, 15), Waits::isWorkedOut);
        timed("a changed plan", time, () -> preview(ticket, 22), Waits::isWorkedOut);
        String tag = handOver(drop(Shapes.extrusion(Shapes.polygon(0, 0, 40, 0, 44, 10, 40, 20, 0, 20), 3 + 0.1 * time + 0.001 * size[0])).request());
        String seen = seen(until(() -> get(tag), answer -> answer.contains("class=\"verdict\"")));
        send(tag + "/accept", "memberName=June+Abara&purpose=EVERYDAY&quantity=12&seen=" + seen);
        timed("a plate of 12", time, () -> preview(tag, 15), Waits::isWorkedOut);
    }

    /** The demo's week planned, and mended when a printer with many plates goes out of order. */
    private void floor(int time) throws Exception {
        String bench = "/floor/printers/glass";
        csrf = found("name=\"_csrf\"[^>]*value=\"([^\"]+)\"", get("/counter"));
        long asked = System.nanoTime();
        send("/floor/draft", "");
        until(() -> get("/floor"), answer -> answer.contains("◆ Draft"));
        note("a first floor plan", asked, time);
        discard();
        String down = "down=on&reason=belt+torn&seen=" + seen(get(bench));
        long broke = System.nanoTime();
        send(bench, down);
        until(() -> get("/floor"), answer -> answer.contains("◆ Draft</span> <span>Glass house is out of order"));
        note("mended, a printer down", broke, time);
        send(bench, "seen=" + seen(get(bench)));
        discard();
    }

    private void discard() throws Exception {
        String page = until(() -> get("/floor"), answer -> !answer.contains("A better plan is being looked for"));
        send("/floor/draft/discard", "seen=" + seen(page.substring(page.indexOf("/floor/draft/undo"))));
    }

    private static boolean isWorkedOut(String answer) {
        return answer.contains("estimate-time");
    }

    private void timed(String what, int time, Callable<String> step, Predicate<String> over) throws Exception {
        long start = System.nanoTime();
        until(step, over);
        note(what, start, time);
    }

    private void note(String what, long since, int time) {
        if (time >= 0) {
            took.computeIfAbsent(what, key -> new ArrayList<>()).add((System.nanoTime() - since) / 1e9);
        }
    }

    /** Asks again as pages do when the server has told them, here every twentieth of a second. */
    private static String until(Callable<String> step, Predicate<String> over) throws Exception {
        for (int i = 0; i < 2000; i++) {
            String answer = step.call();
            if (over.test(answer)) {
                return answer;
            }
            Thread.sleep(50);
        }
        throw new IOException("it never came");
    }

    /** What an open Counter sends when a file is dropped on it. */
    private record Drop(HttpRequest.Builder builder, byte[] body) {

        HttpRequest request() {
            return builder.POST(HttpRequest.BodyPublishers.ofByteArray(body)).build();
        }
    }

    private Drop drop(Mesh mesh) throws IOException, InterruptedException {
        String page = get("/counter"), boundary = UUID.randomUUID().toString();
        csrf = found("name=\"_csrf\"[^>]*value=\"([^\"]+)\"", page);
        ByteArrayOutputStream body = new ByteArrayOutputStream();
        body.writeBytes(("--" + boundary + "\r\nContent-Disposition: form-data; name=\"token\"\r\n\r\n" + UUID.randomUUID() + "\r\n--" + boundary
                + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"pot.stl\"\r\nContent-Type: model/stl\r\n\r\n").getBytes(StandardCharsets.UTF_8));
        BinaryStlWriter.write(mesh, UUID.randomUUID().toString(), body);
        body.writeBytes(("\r\n--" + boundary + "--\r\n").getBytes(StandardCharsets.UTF_8));
        return new Drop(HttpRequest.newBuilder(URI.create(address + "/counter")).header("HX-Request", "true")
                .header("X-CSRF-TOKEN", csrf).header("Content-Type", "multipart/form-data; boundary=" + boundary), body.toByteArray());
    }

    /** @return the address of the ticket */
    private String handOver(HttpRequest drop) throws IOException, InterruptedException {
        HttpResponse<String> answer = browser.send(drop, HttpResponse.BodyHandlers.ofString());
        return answer.headers().firstValue("HX-Redirect").orElseThrow(() -> new IOException("not taken in: " + answer.body()));
    }

    private String preview(String ticket, int infill) throws IOException, InterruptedException {
        Printer door = BuiltIn.printer("standard").orElseThrow();
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(door.nozzle(), door.kinematics()).withInfill(infill / 100.0);
        StringBuilder fields = new StringBuilder("start=daily-bread&printer=old&spool=2");
        for (RecipeField field : RecipeField.values()) {
            if (!field.fine()) {
                fields.append('&').append(field.formName()).append('=').append(URLEncoder.encode(String.valueOf(field.of(recipe)), StandardCharsets.UTF_8));
            }
        }
        return send(ticket + "/plan/preview", fields.toString());
    }

    private String send(String path, String fields) throws IOException, InterruptedException {
        return browser.send(HttpRequest.newBuilder(URI.create(address + path)).header("X-CSRF-TOKEN", csrf)
                .header("Content-Type", "application/x-www-form-urlencoded").POST(HttpRequest.BodyPublishers.ofString(fields)).build(),
                HttpResponse.BodyHandlers.ofString()).body();
    }

    private String get(String path) throws IOException, InterruptedException {
        return Load.get(browser, address, path).body();
    }

    private static String seen(String page) throws IOException {
        return found("name=\"seen\" value=\"([^\"]+)\"", page);
    }

    private static String found(String pattern, String page) throws IOException {
        Matcher found = Pattern.compile(pattern).matcher(page);
        if (!found.find()) {
            throw new IOException("nothing like " + pattern);
        }
        return found.group(1);
    }
}
