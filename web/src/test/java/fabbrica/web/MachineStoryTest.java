package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.printsim.FastClock;
import fabbrica.printsim.Fault;
import fabbrica.web.machine.SimulatedMachine;
import java.io.BufferedReader;
import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Two machines begin from their start sheets; the server is killed meanwhile and comes back; one ends well, one loses its part. */
class MachineStoryTest {

    private static final int LOOSE_AT = 40;
    private static final int SLOWLY = 60;
    private static final Pattern LAYER = Pattern.compile("printing, layer ([1-9]\\d*) of"), AT_WORK = Pattern.compile("warming up|printing");

    @TempDir
    private Path folder;
    private final HeldClock time = new HeldClock();
    private final List<String> scriptErrors = new ArrayList<>();
    private SimulatedMachine window;
    private SimulatedMachine table;
    private Process server;
    private InBrowser browser;
    private Page page;

    /** Machines' time; it stands while it is held. */
    private static final class HeldClock extends Clock {

        private Instant at = Instant.now();
        private Clock going = Clock.fixed(at, ZoneOffset.UTC);

        synchronized void hold() {
            at = instant();
            going = Clock.fixed(at, ZoneOffset.UTC);
        }

        synchronized void letGo(int speed) {
            going = FastClock.of(Clock.offset(Clock.systemUTC(), Duration.between(Instant.now(), at)), speed);
        }

        @Override
        public synchronized Instant instant() {
            return going.instant();
        }

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            throw new UnsupportedOperationException();
        }
    }

    @AfterEach
    void end() {
        browser.close();
        server.destroyForcibly();
        window.close();
        table.close();
        assertThat(scriptErrors).isEmpty();
    }

    @Test
    void two_machines_print_while_the_server_is_killed_and_each_run_is_accounted_for() throws Exception {
        start("--fabbrica.demo=true", "--fabbrica.demo.at=12:30");
        window = machine("small", "window", "Window bench");
        table = machine("large", "long", "Long table");
        connect("window", window, "idle");
        connect("long", table, "waiting to be cleared");
        page.navigate(browser.at("/now"));
        errand("Clear Long table").getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Came out well, cleared")).click();
        assertThat(page.getByText("came out well; the spool went down")).isVisible();

        table.whenLayer(LOOSE_AT, Fault.OFF_BED);
        begin("window");
        begin("long");
        time.letGo(SLOWLY);
        assertThat(strip("window")).containsText(LAYER);
        time.hold();
        assertThat(strip("long")).containsText(AT_WORK);
        int before = layer("window");
        server.destroyForcibly().waitFor();
        browser.close();

        start();
        page.navigate(browser.at("/floor"));
        assertThat(strip("window")).containsText(LAYER);
        assertThat(layer("window")).isGreaterThanOrEqualTo(before);
        assertThat(strip("long")).containsText(AT_WORK);
        time.letGo(FastClock.FASTEST);

        page.navigate(browser.at("/counter"));
        Locator alarm = page.locator(".alarm", new Page.LocatorOptions().setHasText("Long table"));
        assertThat(alarm).containsText("has paused: the part has come off the bed");
        assertThat(alarm).containsText("at layer %d of ".formatted(LOOSE_AT));
        assertThat(alarm).containsText("move the head away before you reach in");
        alarm.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("End it there")).click();
        assertThat(page.getByText("Long table was told to end it there")).isVisible();
        page.locator(".alarm").getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("How did it end?")).click();
        page.getByLabel("failed", new Page.GetByLabelOptions().setExact(true)).check();
        page.getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName("Came off the bed")).check();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Write it down")).click();
        assertThat(page.getByText("Written down; the spool went down by the grams used.")).isVisible();
        assertThat(page.locator(".alarm")).hasCount(0);
        assertThat(page.getByText("Long table broke off at layer %d of ".formatted(LOOSE_AT)).first()).isAttached();

        page.navigate(browser.at("/now"));
        assertThat(errand("Clear Window bench")).containsText("has ended");
        errand("Clear Window bench").getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Came out well, cleared")).click();
        assertThat(page.getByText(Pattern.compile("the spool went down by the .* that its machine told"))).isVisible();
        page.navigate(browser.at("/floor"));
        assertThat(strip("window")).containsText("idle");
        assertThat(strip("long")).containsText("idle");
    }

    private SimulatedMachine machine(String like, String id, String name) {
        Printer figures = BuiltIn.printer(like).orElseThrow();
        return new SimulatedMachine(new Printer(id, name, figures.bed(), figures.nozzle(), figures.kinematics(), figures.preparation(), figures.filamentMm(),
                figures.enclosed(), figures.maxNozzleC(), figures.maxBedC(), figures.materialIds()), folder.resolve("card-" + id), time);
    }

    private void connect(String printer, SimulatedMachine machine, String stands) {
        page.navigate(browser.at("/stores/printers/" + printer));
        page.getByText("Its machine: reached over the network").click();
        page.getByLabel("Host").fill(machine.address().host());
        page.getByLabel("Port", new Page.GetByLabelOptions().setExact(true)).fill(Integer.toString(machine.address().port()));
        page.getByLabel("Port of a camera").fill(Integer.toString(machine.address().cameraPort()));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Keep")).click();
        assertThat(strip(printer)).containsText(stands);
    }

    /** From the start sheet of the first plate that waits. */
    private void begin(String printer) {
        page.navigate(browser.at("/floor"));
        page.locator("#printer-" + printer).getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("Start…")).first().click();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Put the file on the machine")).click();
        assertThat(page.locator("#line")).containsText("The file is on the machine, and it has read the same back.");
        Locator ticks = page.getByRole(AriaRole.CHECKBOX);
        for (int i = 0; i < ticks.count(); i++) {
            ticks.nth(i).check();
        }
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Start the run")).click();
        assertThat(page.getByText("The machine begins.")).isVisible();
        assertThat(strip(printer)).containsText("warming up");
    }

    private Locator strip(String printer) {
        return page.locator("#machine-" + printer);
    }

    private int layer(String printer) {
        Matcher layer = LAYER.matcher(strip(printer).innerText());
        assertThat(layer.find()).isTrue();
        return Integer.parseInt(layer.group(1));
    }

    private Locator errand(String what) {
        return page.locator(".errand", new Page.LocatorOptions().setHasText(what));
    }

    private void start(String... options) throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        List<String> command = new ArrayList<>(List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-cp",
                System.getProperty("java.class.path"), FabbricaApplication.class.getName(), "--server.port=" + port, "--fabbrica.data=" + folder.resolve("lab"),
                "--fabbrica.machine.every=100ms"));
        command.addAll(List.of(options));
        server = new ProcessBuilder(command).redirectErrorStream(true).start();
        BufferedReader terminal = server.inputReader();
        List<String> printed = new ArrayList<>();
        String line;
        do {
            line = terminal.readLine();
            printed.add(line);
        } while (line != null && !line.contains("Started FabbricaApplication"));
        assertThat(line).as(String.valueOf(printed)).isNotNull();
        Thread.ofVirtual().start(() -> terminal.lines().forEach(System.out::println));
        browser = new InBrowser(port);
        page = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800));
        InBrowser.watch(page, scriptErrors);
    }
}
