package fabbrica.web.platform;

import java.time.Instant;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of forms that were sent. */
@Repository
class FormTokenRepository {

    private final JdbcClient jdbc;

    FormTokenRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Tells whether it is sent for the first time. */
    boolean insert(String token, Instant at) {
        return jdbc.sql("insert or ignore into form_token (token, sent_at) values (?, ?)").params(token, at.toEpochMilli())
                .update() == 1;
    }

    void deleteBefore(Instant moment) {
        jdbc.sql("delete from form_token where sent_at < ?").params(moment.toEpochMilli()).update();
    }
}
