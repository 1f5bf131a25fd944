package fabbrica.web.floor;

import java.security.MessageDigest;
import java.security.SecureRandom;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.NoSuchElementException;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The secret part of the addresses at which a screen in the room and people's calendars read the floor plan without signing in. */
@Service
class Wall {

    private static final int BYTES = 18;

    private final JdbcClient jdbc;
    private final SecureRandom random = new SecureRandom();

    Wall(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Nothing as long as no addresses were made. */
    Optional<String> key() {
        return jdbc.sql("select key from wall").query(String.class).optional();
    }

    /** Makes new addresses; those from before lead nowhere any more. */
    @Transactional
    public void renew() {
        byte[] key = new byte[BYTES];
        random.nextBytes(key);
        jdbc.sql("insert into wall (id, key) values (1, ?) on conflict (id) do update set key = excluded.key")
                .param(Base64.getUrlEncoder().withoutPadding().encodeToString(key)).update();
    }

    /** @throws NoSuchElementException when that is not the key */
    void require(String given) {
        byte[] key = key().orElseThrow().getBytes(StandardCharsets.UTF_8);
        if (!MessageDigest.isEqual(key, given.getBytes(StandardCharsets.UTF_8))) {
            throw new NoSuchElementException();
        }
    }
}
