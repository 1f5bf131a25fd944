package fabbrica.bench;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * How long each page takes at the server of a lab that is years old, or large, and at that of the demo with its few weeks, asked in
 * turn by one person: the 95th percentile of each, and their ratio. A page is too slow above 200 ms, a report above 2 s.
 */
public final class Pages {

    private static final int TIMES = 40;
    private static final int BEFORE = 40;
    private static final long PATIENCE_NS = 10_000_000_000L;
    private static final List<String> FIXED = List.of("/counter", "/counter/closed", "/floor", "/floor?span=week", "/floor/draft", "/now",
            "/stores", "/stores/off-shelf", "/stores/disk",
            "/stores/lab/settings", "/stores/lab/hours", "/stores/spools/1", "/stores/printers/door", "/stores/materials/pla", "/stores/nozzles/1",
            "/ledger", "/ledger?words=coaster", "/ledger?words=nothing%20like%20it", "/ledger?printer=door&outcome=failed", "/members", "/members/1",
            "/ledger/money", "/ledger/upgrade", "/accounts", "/handbook", "/plates/new", "/password");
    /** Of some months, and of all there were. */
    private static final List<String> REPORTS = List.of("/ledger/reliability", "/ledger/reliability?back=always", "/ledger/use", "/ledger/use?from=2000-01", "/ledger/board",
            "/ledger/board?from=2000-01", "/ledger/board.pdf", "/ledger/board.pdf?from=2000-01");
    private static final double PAGE_MS = 200;
    private static final double REPORT_MS = 2000;

    private Pages() {
    }

    /** @param arguments addresses: of the old lab, and of the demo */
    public static void main(String[] arguments) throws Exception {
        Map<String, Double> old = measured(arguments[0]), young = measured(arguments[1]);
        System.out.printf("%-40s %12s %12s %8s%n", "page, p95 of " + TIMES, "that lab", "the demo", "ratio");
        old.forEach((page, ms) -> {
            double weeks = young.getOrDefault(page, Double.NaN);
            System.out.printf("%-40s %9.0f ms %9.0f ms %8.1f%s%n", page, ms, weeks, ms / weeks,
                    ms > (REPORTS.contains(page) ? REPORT_MS : PAGE_MS) && !(ms <= 5 * weeks) ? "  too slow" : "");
        });
    }

    private static Map<String, Double> measured(String address) throws IOException, InterruptedException {
        HttpClient browser = Load.browser();
        Load.signIn(browser, address, "mira", "demo-coordinator");
        Map<String, String> pages = new LinkedHashMap<>();
        FIXED.forEach(page -> pages.put(page, page));
        REPORTS.forEach(page -> pages.put(page, page));
        String floor = get(browser, address, "/floor"), counter = get(browser, address, "/counter");
        put(pages, "a plate that waits", "/plates/\\d+(?=\")", floor);
        put(pages, "a plate's place in the plan", "/floor/plates/\\d+(?=\")", floor);
        put(pages, "a checklist", "/floor/start/\\d+(?=\")", floor);
        put(pages, "a run's end", "/floor/runs/\\d+/end(?=\")", floor);
        List<String> tickets = new ArrayList<>(new TreeSet<>(Pattern.compile("/tickets/\\d+(?=\")").matcher(counter).results().map(MatchResult::group).toList()));
        for (int i = 0; i < Math.min(8, tickets.size()); i++) {
            pages.put("ticket " + (i + 1), tickets.get(tickets.size() - 1 - i));
        }
        Map<String, Double> percentiles = new LinkedHashMap<>();
        for (Map.Entry<String, String> page : pages.entrySet()) {
            asked(browser, address, page.getValue(), BEFORE);
            List<Double> ms = asked(browser, address, page.getValue(), TIMES).stream().sorted().toList();
            percentiles.put(page.getKey(), ms.get((int) Math.ceil(ms.size() * 0.95) - 1));
        }
        return percentiles;
    }

    /** Milliseconds of each time; of a slow page as many as there is patience for. */
    private static List<Double> asked(HttpClient browser, String address, String page, int times) throws IOException, InterruptedException {
        List<Double> ms = new ArrayList<>();
        long until = System.nanoTime() + PATIENCE_NS;
        while (ms.isEmpty() || ms.size() < times && System.nanoTime() < until) {
            long start = System.nanoTime();
            get(browser, address, page);
            ms.add((System.nanoTime() - start) / 1e6);
        }
        return ms;
    }

    private static void put(Map<String, String> pages, String name, String pattern, String in) {
        Stream<String> found = Pattern.compile(pattern).matcher(in).results().map(MatchResult::group);
        found.findFirst().ifPresent(address -> pages.put(name, address));
    }

    private static String get(HttpClient browser, String address, String path) throws IOException, InterruptedException {
        HttpResponse<String> answer = Load.get(browser, address, path);
        if (answer.statusCode() != 200) {
            throw new IOException(address + path + " answered " + answer.statusCode());
        }
        return answer.body();
    }
}
