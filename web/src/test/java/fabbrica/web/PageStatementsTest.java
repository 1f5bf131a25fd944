package fabbrica.web;

import static fabbrica.web.Steps.open;

import com.zaxxer.hikari.HikariDataSource;
import fabbrica.web.platform.gate.Access;
import fabbrica.web.ticket.TicketState;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import net.ttddyy.dsproxy.ExecutionInfo;
import net.ttddyy.dsproxy.QueryInfo;
import net.ttddyy.dsproxy.listener.QueryExecutionListener;
import net.ttddyy.dsproxy.support.ProxyDataSourceBuilder;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.context.annotation.Bean;
import org.springframework.http.HttpMethod;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.test.web.servlet.MockMvc;

/** How many statements each page sends to the database of a lab that is a year old. */
@SpringBootTest(useMainMethod = SpringBootTest.UseMainMethod.ALWAYS, webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
        properties = {"fabbrica.demo=true", "fabbrica.demo.years=1", "fabbrica.data=target/year-lab"})
@AutoConfigureMockMvc
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
                                        if (Thread.currentThread().getName().startsWith("hand-")) {
                                            queries.forEach(query -> SENT.add(query.getQuery()));
                                        }
                                    }
                                }).build());
                    }
                    return bean;
                }
            };
        }
    }

    static Stream<String> pages() {
        return Access.routes().stream().filter(route -> route.method() == HttpMethod.GET && !route.isOpen())
                .map(route -> route.pattern().getPatternString());
    }

    @ParameterizedTest
    @MethodSource("pages")
    void a_page_sends_at_most_twelve_statements(String pattern) throws Exception {
        long queued = jdbc.sql("select max(ticket_id) from plate_copy c join plate p on p.id = c.plate_id where p.state = 'QUEUED'").query(Long.class).single();
        String address = pattern.replace("/counter/hand-overs/{id}", "/counter/hand-overs/" + one("select max(id) from hand_over where name like 'box%'"))
                .replace("{modelId}", one("select max(id) from model where hand_over_id = (select max(id) from hand_over where name like 'box%')"))
                .replace("/tickets/{id}", "/tickets/" + queued).replace("{planId}", one("select plan_id from ticket where id = " + queued))
                .replace("{number}", "1").replace("{format}", "stl")
                .replace("{plate}", one("select max(id) from plate where state = 'QUEUED'"))
                .replace("/plates/{id}", "/plates/" + one("select max(id) from plate where state = 'QUEUED'"))
                .replace("/floor/start/{id}", "/floor/start/" + one("select max(id) from plate where state = 'QUEUED'"))
                .replace("/floor/runs/{id}", "/floor/runs/" + one("select max(id) from run where state = 'RUNNING'"))
                .replace("/members/{id}", "/members/1").replace("/stores/printers/{id}", "/stores/printers/door")
                .replace("/stores/spools/{id}", "/stores/spools/1").replace("/stores/materials/{id}", "/stores/materials/pla")
                .replace("/stores/nozzles/{id}", "/stores/nozzles/1");
        for (int look = 0; look < 3; look++) {
            SENT.clear();
            int status = mvc.perform(open(address)).andReturn().getResponse().getStatus();
            System.out.println("COUNT " + SENT.size() + " " + status + " " + address);
            if (look == 2 && SENT.size() > 12) SENT.stream().map(q -> q.replaceAll("\\s+", " ")).map(q -> q.substring(0, Math.min(150, q.length())))
                .collect(Collectors.groupingBy(q -> q, Collectors.counting())).forEach((q, n) -> System.out.println("    SQL " + n + " " + q));
        }
    }

    static Stream<String> states() {
        return Arrays.stream(TicketState.values()).map(Enum::name);
    }

    @ParameterizedTest
    @MethodSource("states")
    void a_ticket_too(String state) throws Exception {
        a_page_sends_at_most_twelve_statements("/tickets/" + one("select max(id) from ticket where state = '" + state + "'"));
    }

    private String one(String query) {
        return jdbc.sql(query).query(String.class).single();
    }
}
