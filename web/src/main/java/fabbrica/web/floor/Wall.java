package fabbrica.web.floor;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.NoSuchElementException;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The secret part of the addresses at which a screen in the room and people's calendars read the floor plan without signing in. */
@Service
class Wall {

    private static final int BYTES = 18;

    private final WallRepository repository;
    private final SecureRandom random = new SecureRandom();

    Wall(WallRepository repository) {
        this.repository = repository;
    }

    /** Nothing as long as no addresses were made. */
    Optional<String> key() {
        return repository.key();
    }

    /** Makes new addresses; those from before lead nowhere any more. */
    @Transactional
    public void renew() {
        byte[] key = new byte[BYTES];
        random.nextBytes(key);
        repository.save(Base64.getUrlEncoder().withoutPadding().encodeToString(key));
    }

    /** @throws NoSuchElementException when that is not the key */
    void require(String given) {
        byte[] key = key().orElseThrow().getBytes(StandardCharsets.UTF_8);
        if (!MessageDigest.isEqual(key, given.getBytes(StandardCharsets.UTF_8))) {
            throw new NoSuchElementException();
        }
    }
}
