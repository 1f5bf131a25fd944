package fabbrica.bench;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * People who browse a running demo at once, each with an account of their own, a page every two seconds on average. Prints how
 * long each kind of page took, and in the same run how fast the machine is: shared machines drift.
 */
public final class Load {

    private static final double THINKING_S = 2;
    private static final String PASSWORD = "lanterns drift uphill";
    private static final String[] PAGES = {"/counter", "/floor", "/stores", "/ledger", "/members", "/handbook"};

    private final String address;
    private final Map<String, ConcurrentLinkedQueue<Long>> took = new ConcurrentSkipListMap<>();
    private final AtomicInteger errors = new AtomicInteger();
    private List<Long> tickets = List.of();

    private Load(String address) {
        this.address = address;
    }

    /** @param arguments the address, people, seconds, and the number of the server's process */
    public static void main(String[] arguments) throws Exception {
        Load load = new Load(arguments[0]);
        int people = Integer.parseInt(arguments[1]), seconds = Integer.parseInt(arguments[2]);
        String process = arguments[3];
        double reference = referenceSeconds();
        List<HttpClient> browsers = load.signUp(people);
        System.out.printf("%d people for %d s; memory before %s%n", people, seconds, memory(process));
        List<Thread> threads = new ArrayList<>();
        long until = System.nanoTime() + seconds * 1_000_000_000L;
        for (int i = 0; i < people; i++) {
            HttpClient browser = browsers.get(i);
            Random chance = new Random(i);
            threads.add(Thread.ofVirtual().start(() -> load.browse(browser, chance, until)));
        }
        for (int minute = 1; !threads.getFirst().join(Duration.ofMinutes(1)); minute++) {
            System.out.printf("after %d min: memory %s%n", minute, memory(process));
        }
        for (Thread thread : threads) {
            thread.join();
        }
        load.report(reference);
        System.out.printf("memory after %s%n", memory(process));
        System.exit(load.errors.get() == 0 ? 0 : 1);
    }

    private List<HttpClient> signUp(int people) throws Exception {
        HttpClient mira = browser();
        signIn(mira, address, "mira", "demo-coordinator");
        tickets = new ArrayList<>(new TreeSet<>(Pattern.compile("/tickets/(\\d+)\"").matcher(get(mira, "/counter").body()).results()
                .map(found -> Long.parseLong(found.group(1))).toList()));
        List<HttpClient> browsers = new ArrayList<>();
        for (int i = 0; i < people; i++) {
            post(mira, address, "/members", "/members/accounts", "username=helper" + i + "&role=HELPER&password=" + encoded(PASSWORD));
            HttpClient browser = browser();
            signIn(browser, address, "helper" + i, PASSWORD);
            browsers.add(browser);
        }
        return browsers;
    }

    private void browse(HttpClient browser, Random chance, long until) {
        while (think(chance) && System.nanoTime() < until) {
            int choice = chance.nextInt(PAGES.length + 4);
            String kind = choice < PAGES.length ? PAGES[choice] : "/tickets/{id}";
            String path = choice < PAGES.length ? kind : "/tickets/" + tickets.get(chance.nextInt(tickets.size()));
            long start = System.nanoTime();
            try {
                HttpResponse<String> answer = get(browser, path);
                if (answer.statusCode() != 200) {
                    errors.incrementAndGet();
                    System.out.println(path + " answered " + answer.statusCode());
                }
                took.computeIfAbsent(kind, key -> new ConcurrentLinkedQueue<>()).add(System.nanoTime() - start);
            } catch (IOException | InterruptedException e) {
                errors.incrementAndGet();
                System.out.println(path + ": " + e);
            }
        }
    }

    /** People come and turn pages independently of one another: waits are exponential. */
    private static boolean think(Random chance) {
        try {
            Thread.sleep((long) (-Math.log(1 - chance.nextDouble()) * THINKING_S * 1000));
            return true;
        } catch (InterruptedException e) {
            return false;
        }
    }

    private void report(double reference) {
        System.out.printf("%-16s %8s %8s %8s %8s%n", "page", "times", "median", "p99", "worst");
        new TreeMap<>(took).forEach((page, all) -> {
            double[] ms = all.stream().mapToDouble(nanos -> nanos / 1e6).sorted().toArray();
            System.out.printf("%-16s %8d %5.0f ms %5.0f ms %5.0f ms%n", page, ms.length, ms[ms.length / 2],
                    ms[(int) Math.min(ms.length - 1, Math.ceil(ms.length * 0.99))], ms[ms.length - 1]);
        });
        System.out.printf("%d errors; admesh checks the knobbly sphere in %s on this machine%n", errors.get(),
                Double.isNaN(reference) ? "unknown time (not installed)" : "%.2f s".formatted(reference));
    }

    /** The best of three runs of a well-known tool on a sphere of a million triangles; not a number when it is not installed. */
    public static double referenceSeconds() throws IOException, InterruptedException {
        Path sphere = Files.createTempFile("knobbly", ".stl");
        Spheres.write(Spheres.knobbly(500), sphere);
        double best = Double.NaN;
        try {
            for (int i = 0; i < 3; i++) {
                long start = System.nanoTime();
                new ProcessBuilder("admesh", sphere.toString()).redirectErrorStream(true)
                        .redirectOutput(ProcessBuilder.Redirect.DISCARD).start().waitFor();
                double seconds = (System.nanoTime() - start) / 1e9;
                best = Double.isNaN(best) ? seconds : Math.min(best, seconds);
            }
        } catch (IOException notInstalled) {
            return Double.NaN;
        } finally {
            Files.delete(sphere);
        }
        return best;
    }

    private static String memory(String process) throws IOException {
        return Files.readAllLines(Path.of("/proc", process, "status")).stream().filter(line -> line.startsWith("VmRSS"))
                .map(line -> line.replaceAll("\\s+", " ")).findFirst().orElse("unknown");
    }

    public static HttpClient browser() {
        return HttpClient.newBuilder().cookieHandler(new CookieManager()).build();
    }

    private HttpResponse<String> get(HttpClient browser, String path) throws IOException, InterruptedException {
        return get(browser, address, path);
    }

    public static HttpResponse<String> get(HttpClient browser, String address, String path) throws IOException, InterruptedException {
        return browser.send(HttpRequest.newBuilder(URI.create(address + path)).build(), HttpResponse.BodyHandlers.ofString());
    }

    public static void signIn(HttpClient browser, String address, String name, String password) throws IOException, InterruptedException {
        post(browser, address, "/sign-in", "/sign-in", "username=" + name + "&password=" + encoded(password));
    }

    private static void post(HttpClient browser, String address, String page, String to, String fields) throws IOException, InterruptedException {
        Matcher token = Pattern.compile("name=\"_csrf\"[^>]*value=\"([^\"]+)\"").matcher(get(browser, address, page).body());
        if (!token.find()) {
            throw new IOException("no form at " + page);
        }
        HttpResponse<String> answer = browser.send(HttpRequest.newBuilder(URI.create(address + to))
                .header("Content-Type", "application/x-www-form-urlencoded").POST(HttpRequest.BodyPublishers.ofString(
                        fields + "&_csrf=" + encoded(token.group(1)))).build(), HttpResponse.BodyHandlers.ofString());
        String next = answer.headers().firstValue("Location").orElse("");
        if (answer.statusCode() != 302 || next.contains("error") || next.contains("wait")) {
            throw new IOException(to + " answered " + answer.statusCode() + " " + next);
        }
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }
}
