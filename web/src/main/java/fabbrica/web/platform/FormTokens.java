package fabbrica.web.platform;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Tokens of forms that make something new, so that a form sent twice, or ten times at once, makes it once. Used in
 * templates as {@code @tokens}.
 */
@Component("tokens")
public class FormTokens {

    private static final Duration REMEMBERED = Duration.ofDays(7);
    private static final String FIELD = "token";

    private final FormTokenRepository repository;
    private final Clock clock;

    FormTokens(FormTokenRepository repository, Clock clock) {
        this.repository = repository;
        this.clock = clock;
    }

    public String fresh() {
        return UUID.randomUUID().toString();
    }

    /** Takes the step a form asks for, in one transaction with its token, unless that was sent before. */
    @Transactional
    public void once(FormValues form, Runnable step) {
        String token = form.text(FIELD);
        Instant now = clock.instant();
        if (token.isEmpty() || repository.insert(token, now)) {
            repository.deleteBefore(now.minus(REMEMBERED));
            step.run();
        }
    }
}
