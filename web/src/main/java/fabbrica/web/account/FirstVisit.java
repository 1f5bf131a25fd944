package fabbrica.web.account;

import java.security.MessageDigest;
import java.security.SecureRandom;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** The one-time code that lets whoever sees the terminal create the first coordinator. */
@Component
public class FirstVisit {

    private static final String LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";
    private static final int LENGTH = 10;

    private final Accounts accounts;
    private final String code;

    FirstVisit(Accounts accounts) {
        this.accounts = accounts;
        SecureRandom random = new SecureRandom();
        StringBuilder letters = new StringBuilder();
        for (int i = 0; i < LENGTH; i++) {
            letters.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
        }
        this.code = letters.toString();
    }

    public boolean pending() {
        return !accounts.any();
    }

    boolean accepts(String given) {
        return pending() && MessageDigest.isEqual(code.getBytes(), given.strip().toUpperCase().getBytes());
    }

    @EventListener(ApplicationReadyEvent.class)
    void announce() {
        if (pending()) {
            System.out.println("First visit: open /setup and enter this one-time code: " + code);
        }
    }
}
