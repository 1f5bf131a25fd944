package fabbrica.web;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import com.zaxxer.hikari.HikariDataSource;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Plate;
import fabbrica.web.account.Role;
import fabbrica.web.counter.Intake;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.gate.Access;
import fabbrica.web.ticket.Acceptance;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import net.ttddyy.dsproxy.ExecutionInfo;
import net.ttddyy.dsproxy.QueryInfo;
import net.ttddyy.dsproxy.listener.QueryExecutionListener;
import net.ttddyy.dsproxy.support.ProxyDataSourceBuilder;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Import;
import org.springframework.http.HttpMethod;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** How many statements each page sends to the database of a lab that is a year old. */
@SpringBootTest(useMainMethod = SpringBootTest.UseMainMethod.ALWAYS, webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
        properties = {"fabbrica.demo=true", "fabbrica.demo.at=12:30", "fabbrica.demo.years=1", "fabbrica.data=target/year-lab"})
@AutoConfigureMockMvc
@Import({Steps.class, Examples.class})
class PageStatementsTest {

    private static final int MOST = 12;
    private static final List<String> SENT = new CopyOnWriteArrayList<>();

    @Autowired
    private MockMvc mvc;
    @Autowired
    private JdbcClient jdbc;

    @TestConfiguration
    static class Counting {

        /** Puts a counter between the pool and the driver. */
        @Bean
        static BeanPostProcessor counter() {
            return new BeanPostProcessor() {
                @Override
                public Object postProcessBeforeInitialization(Object bean, String name) {
                    if (bean instanceof HikariDataSource pool) {
                        pool.setDataSource(ProxyDataSourceBuilder.create(new DriverManagerDataSource(pool.getJdbcUrl()))
                                .listener(new QueryExecutionListener() {
                                    @Override
                                    public void beforeQuery(ExecutionInfo execution, List<QueryInfo> queries) {
                                    }

                                    @Override
                                    public void afterQuery(ExecutionInfo execution, List<QueryInfo> queries) {
                                        // Of what requests ask; works have threads of their own. Bounds of transactions are no questions.
                                        if (Thread.currentThread().getName().startsWith("hand-")) {
                                            queries.stream().map(QueryInfo::getQuery).filter(query -> !query.matches("pragma .*|begin .*|commit"))
                                                    .forEach(SENT::add);
                                        }
                                    }
                                }).build());
                    }
                    return bean;
                }
            };
        }
    }

    @Autowired
    private Steps steps;
    @Autowired
    private Examples examples;
    @Autowired
    private Intake intake;
    @Autowired
    private Acceptance acceptance;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Plates plates;

    static Stream<String> pages() {
        return Access.routes().stream().filter(route -> route.method() == HttpMethod.GET && !route.isOpen())
                .map(route -> route.pattern().getPatternString());
    }

    @ParameterizedTest
    @MethodSource("pages")
    void a_page_sends_at_most_twelve_statements(String pattern) throws Exception {
        requireFew(examples.of(pattern));
    }

    @ParameterizedTest
    @EnumSource(TicketState.class)
    void so_does_a_ticket_in_every_state(TicketState state) throws Exception {
        requireFew("/tickets/" + one("select max(id) from ticket where state = '" + state + "'"));
    }

    @Test
    void so_does_a_ticket_that_came_sliced() throws Exception {
        byte[] gcode = "; by hand\nG28\nG1 X20 Y20 Z0.2 F3000\nG1 X60 E2 F1200\nG1 Y60 E4\n".getBytes(StandardCharsets.US_ASCII);
        long id = Objects.requireNonNull(intake.take("by-hand.gcode", gcode.length, new ByteArrayInputStream(gcode), "by hand", "mira").pieces().getFirst().ticketId());
        requireFew("/tickets/" + id);
        acceptance.accept(tickets.ticket(id), new Request(1L, Purpose.DISPLAY, null, "", "", 1, "", ""), "mira");
        requireFew("/tickets/" + id);
    }

    @ParameterizedTest
    @ValueSource(strings = {"gauge", "fits", "request", "plan", "runs", "history"})
    void every_section_of_a_ticket_can_be_asked_for_by_itself(String section) throws Exception {
        mvc.perform(open("/tickets/" + one("select max(ticket_id) from run_copy c join ticket t on t.id = c.ticket_id where t.state = 'FAILED'")
                + "/sections/" + section)).andExpect(status().isOk());
    }

    @Test
    void so_do_the_pages_of_a_plate_for_a_whole_class() throws Exception {
        String printer = steps.printer();
        List<Ticket> pupils = IntStream.range(0, 12).mapToObj(i -> tickets.ticket(steps.accepted(Shapes.box(20 + i, 15, 2), 1))).toList();
        long plate = plates.draft(pupils, steps.plan(printer, steps.spool("pla", 800)).entry(), Plate.Sequence.TOGETHER, "mira").getFirst();
        assertThat(plates.plate(plate).tickets()).hasSize(12);
        requireFew("/plates/" + plate);
        requireFew("/plates/" + plate + "/judged");
        plates.enqueue(plates.plate(plate), "mira");
        requireFew("/floor/start/" + plate);
        long run = steps.started(plate);
        requireFew("/floor/runs/" + run + "/end");
        steps.end(run, Outcome.WELL, 100, 20);
        requireFew("/floor/runs/" + run);
        requireFew("/tickets/" + pupils.getLast().id());
    }

    /** Looked at twice: what is measured on the first look is written down then. Files are no pages. */
    private void requireFew(String address) throws Exception {
        MockHttpServletResponse page = mvc.perform(look(address)).andReturn().getResponse();
        assertThat(page.getStatus()).as(address).isIn(200, 302);
        if (String.valueOf(page.getContentType()).startsWith("text/html")) {
            SENT.clear();
            mvc.perform(look(address));
            assertThat(SENT).as(address).hasSizeLessThanOrEqualTo(MOST);
        }
    }

    private static MockHttpServletRequestBuilder look(String address) {
        return address.startsWith("/mine") ? open(address, "june", Role.MEMBER) : open(address);
    }

    private String one(String query) {
        return jdbc.sql(query).query(String.class).single();
    }
}
