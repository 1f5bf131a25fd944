package fabbrica.web.platform.storage;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.Files3d;
import fabbrica.web.Steps;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.context.annotation.Import;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;

/**
 * Forms sent while another process holds the write lock: what was acknowledged is saved whole, what was refused is not
 * saved at all, and nothing is left behind for those who come later.
 */
@SpringBootTest(useMainMethod = SpringBootTest.UseMainMethod.ALWAYS,
        properties = {"fabbrica.demo=true", "fabbrica.data=target/locked-lab"})
@AutoConfigureMockMvc
@Import(Steps.class)
class LockedDatabaseTest {

    private static final Path DATABASE = Path.of("target/locked-lab/fabbrica.db");
    private static final int HANDS = 8;
    private static final int STEPS = 200;

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;

    /** What is in the database, seen by a connection that the application knows nothing of. */
    private final JdbcClient outside = JdbcClient.create(new DriverManagerDataSource("jdbc:sqlite:" + DATABASE));
    private final AtomicInteger number = new AtomicInteger();
    private final List<Hand> hands = new ArrayList<>();

    /** Somebody at a keyboard, with a member, a spool and a ticket that nobody else changes. */
    private record Hand(long member, long spool, Random chance) {
    }

    /** @param saved how many of the step's traces are in the database, of how many */
    private record Outcome(String step, boolean acknowledged, int saved, int traces) {

        boolean whole() {
            return acknowledged ? saved == traces : saved == 0;
        }
    }

    @BeforeEach
    void people() throws Exception {
        for (int i = 0; i < HANDS; i++) {
            mvc.perform(send("/members/0").param("name", "Hand " + i).param("badge", "door", "glass", "long"));
            hands.add(new Hand(count("select id from member where name = ?", "Hand " + i), steps.spool("pla", 800), new Random(i)));
        }
    }

    @Test
    void what_is_acknowledged_is_saved_and_what_is_refused_is_not() throws Exception {
        List<Outcome> outcomes = new ArrayList<>();
        try (ExecutorService keyboards = Executors.newFixedThreadPool(HANDS)) {
            for (int seconds : new int[] {1, 7, 20}) {
                Process holder = hold(seconds);
                List<Callable<List<Outcome>>> sessions = hands.stream().<Callable<List<Outcome>>>map(hand -> () -> {
                    List<Outcome> done = new ArrayList<>();
                    for (int i = 0; i < STEPS / HANDS / 3 + 1; i++) {
                        done.add(step(hand));
                    }
                    return done;
                }).toList();
                for (Future<List<Outcome>> session : keyboards.invokeAll(sessions)) {
                    outcomes.addAll(session.get());
                }
                assertThat(holder.waitFor()).isZero();
            }
        }
        assertThat(outcomes).hasSizeGreaterThanOrEqualTo(STEPS).allMatch(Outcome::whole);
        assertThat(outcomes).as("20 seconds are too long to wait").anyMatch(outcome -> !outcome.acknowledged());
        for (Hand hand : hands) {
            for (int i = 0; i < 5; i++) {
                assertThat(step(hand)).as("long after").matches(outcome -> outcome.acknowledged() && outcome.whole());
            }
        }
    }

    @Test
    void pages_are_shown_while_the_database_is_locked_and_the_refusal_says_what_is_true() throws Exception {
        Process holder = hold(20);
        assertThat(mvc.perform(open("/members")).andReturn().getResponse().getStatus()).isEqualTo(200);
        MockHttpServletResponse refused = mvc.perform(send("/members/0").param("name", "Too Early")).andReturn().getResponse();
        assertThat(refused.getStatus()).isEqualTo(503);
        assertThat(refused.getContentAsString()).contains("busy", "Nothing was changed");
        assertThat(holder.isAlive()).isTrue();
        holder.destroyForcibly().waitFor();
        assertThat(count("select count(*) from member where name = ?", "Too Early")).isZero();
    }

    private static Process hold(int seconds) throws Exception {
        Process holder = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "--enable-native-access=ALL-UNNAMED", "-cp", System.getProperty("java.class.path"),
                LockHolder.class.getName(), DATABASE.toString(), Integer.toString(seconds)).redirectErrorStream(true).start();
        assertThat(holder.inputReader().readLine()).isEqualTo("held");
        return holder;
    }

    private Outcome step(Hand hand) throws Exception {
        String mark = "mark-" + number.incrementAndGet();
        return switch (hand.chance().nextInt(6)) {
            case 0 -> {
                boolean told = moved(mvc.perform(send("/members/0").param("name", mark).param("badge", "door", "long"))
                        .andReturn().getResponse());
                yield new Outcome("new member", told, (int) count("""
                        select (select count(*) from member where name = :mark) + (select count(*) from badge b
                            join member m on m.id = b.member_id where m.name = :mark)""", mark), 3);
            }
            case 1 -> {
                long before = count("select count(*) from badge where member_id = ?", hand.member());
                String[] badges = before == 3 ? new String[] {"door"} : new String[] {"door", "glass", "long"};
                boolean told = moved(mvc.perform(send("/members/" + hand.member()).param("name", mark).param("badge", badges)
                        ).andReturn().getResponse());
                long badgesNow = count("select count(*) from badge where member_id = ?", hand.member());
                yield new Outcome("member", told, (int) count("select count(*) from member where name = ?", mark)
                        + (badgesNow == badges.length ? 1 : badgesNow == before ? 0 : 5), 2);
            }
            case 2 -> {
                boolean told = moved(mvc.perform(send("/stores/spools/" + hand.spool()).param("materialId", "pla")
                        .param("colour", mark).param("netG", "700").param("diameterMm", "1.75").param("remainingG", "700")
                        .param("pricePerKg", "20")
                        ).andReturn().getResponse());
                yield new Outcome("spool", told, (int) count("select count(*) from spool where colour = ?", mark), 1);
            }
            case 3 -> {
                boolean told = moved(mvc.perform(send("/stores/materials/new").param("name", mark).param("density", "1.2")
                        .param("nozzleC", "210").param("bedC", "60")).andReturn().getResponse());
                yield new Outcome("material", told, (int) count("select count(*) from material where name = ?", mark), 1);
            }
            case 4 -> {
                byte[] stl = Files3d.stl(Shapes.box(10, 10, 1 + number.get() / 10.0));
                boolean told = moved(mvc.perform(MockMvcRequestBuilders.multipart("/counter")
                        .file(new MockMultipartFile("file", mark + ".stl", "model/stl", stl)).param("token", mark)
                        .with(SecurityMockMvcRequestPostProcessors.user("mira").roles("COORDINATOR"))
                        .with(SecurityMockMvcRequestPostProcessors.csrf())).andReturn().getResponse());
                yield new Outcome("hand-over", told, (int) count("""
                        select (select count(*) from hand_over where token = :mark) + (select count(*) from model
                            where name = :mark || '.stl') + (select count(*) from event e join ticket t on t.id = e.ticket_id
                            join model m on m.id = t.model_id where m.name = :mark || '.stl')""", mark), 3);
            }
            default -> {
                boolean told = moved(mvc.perform(send("/members/accounts").param("username", mark).param("role", "HELPER")
                        .param("password", "long enough for " + mark)).andReturn().getResponse());
                yield new Outcome("account", told, (int) count("select count(*) from account where username = ?", mark), 1);
            }
        };
    }

    private String version(String table, long id) {
        return Long.toString(count("select version from " + table + " where id = ?", id));
    }

    private long count(String sql, Object value) {
        return (sql.contains(":mark") ? outside.sql(sql).param("mark", value) : outside.sql(sql).param(value))
                .query(Long.class).single();
    }

    private static boolean moved(MockHttpServletResponse response) {
        return response.getStatus() == 302;
    }
}
