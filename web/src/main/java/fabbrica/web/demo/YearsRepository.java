package fabbrica.web.demo;

import java.time.Instant;
import org.springframework.context.annotation.Lazy;
import org.springframework.core.io.ClassPathResource;
import org.springframework.jdbc.core.ConnectionCallback;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.datasource.init.ScriptUtils;
import org.springframework.stereotype.Repository;

/** Writes years of a lab's life, or a crowd of printers, into its database, by plain SQL, for trying how it does when it is old or large. */
@Repository
@Lazy
class YearsRepository {

    private static final int TICKETS_A_YEAR = 6000;
    private static final int DAYS_A_YEAR = 365;
    private static final int TICKETS_A_WEEK = 18;
    private static final int DAYS_A_WEEK = 7;

    private final JdbcTemplate jdbc;

    YearsRepository(JdbcTemplate jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * Adds 6,000 tickets and 10,000 runs for each year, like those that the lab has handed out so far. Writes in the transaction
     * that is open.
     *
     * @param until midnight of the day after their last
     */
    void years(int years, Instant until) {
        write(years * TICKETS_A_YEAR, years * DAYS_A_YEAR, until);
    }

    /** The same for some weeks, in which the lab is not as busy, one printer begins to fail, and is mended. */
    void weeks(int weeks, Instant until) {
        write(weeks * TICKETS_A_WEEK, weeks * DAYS_A_WEEK, until);
    }

    private void write(int tickets, int days, Instant until) {
        jdbc.update("create temp table span as select ? as tickets, ? as days, ? as until_ms", tickets, days, until.toEpochMilli());
        run("years");
    }

    /** Adds printers until there are fifty, and plates that wait for them until there are a thousand. */
    void crowd() {
        run("crowd");
    }

    private void run(String script) {
        jdbc.execute((ConnectionCallback<Boolean>) connection -> {
            ScriptUtils.executeSqlScript(connection, new ClassPathResource("demo/%s.sql".formatted(script)));
            return true;
        });
    }
}
