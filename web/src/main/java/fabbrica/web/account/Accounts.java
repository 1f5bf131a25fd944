package fabbrica.web.account;

import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.session.SessionInformation;
import org.springframework.security.core.session.SessionRegistry;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Accounts that can sign in. What is taken from one ends its sessions. */
@Service
public class Accounts implements UserDetailsService {

    private static final String LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";
    private static final int CODE_LENGTH = 10;
    public static final Duration CODE_HOLDS = Duration.ofDays(3);
    /** What no password is hashed to. */
    public static final String NONE = "!";

    private final AccountRepository repository;
    private final PasswordEncoder encoder;
    private final SessionRegistry sessions;
    private final Events events;
    private final Clock clock;
    private final TransactionTemplate transaction;

    Accounts(AccountRepository repository, PasswordEncoder encoder, SessionRegistry sessions, Events events, Clock clock,
             TransactionTemplate transaction) {
        this.repository = repository;
        this.encoder = encoder;
        this.sessions = sessions;
        this.events = events;
        this.clock = clock;
        this.transaction = transaction;
    }

    /** Letters that are not mistaken for one another, as many as nobody guesses. */
    public static String freshCode() {
        SecureRandom random = new SecureRandom();
        StringBuilder letters = new StringBuilder();
        for (int i = 0; i < CODE_LENGTH; i++) {
            letters.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
        }
        return letters.toString();
    }

    @Override
    public UserDetails loadUserByUsername(String username) {
        return repository.account(username).orElseThrow(() -> new UsernameNotFoundException("unknown"));
    }

    public boolean any() {
        return repository.hasAccounts();
    }

    List<Account> all() {
        return repository.accounts();
    }

    /** @throws java.util.NoSuchElementException when there is none of that name */
    public Account named(String username) {
        return all().stream().filter(account -> account.username().equalsIgnoreCase(username)).findFirst().orElseThrow();
    }

    public List<Account> ofMember(long memberId) {
        return repository.accountsOf(memberId);
    }

    /** @param memberId the member behind a {@link Role#MEMBER} account, else null */
    public void add(String username, String password, Role role, String name, @Nullable Long memberId, String who) {
        String hash = hash(password, username);
        transaction.executeWithoutResult(status -> {
            if (repository.account(username).isPresent()) {
                throw new Refusal("The name “" + username + "” is taken.");
            }
            long id = repository.insertAccount(username, hash, role, name, memberId);
            events.record(who, About.account(id), new Fact.AccountOpened(role.name()));
        });
    }

    /**
     * Ends all sessions but the one it is asked from.
     *
     * @throws Refusal when the present password is not the one given, or the new one is not taken
     */
    void changePassword(String username, String present, String next, String session) {
        if (!encoder.matches(present, loadUserByUsername(username).getPassword())) {
            throw new Refusal("That is not your present password.");
        }
        String hash = hash(next, username);
        transaction.executeWithoutResult(status -> repository.savePassword(username, hash));
        endSessions(username, session);
    }

    /**
     * Takes the password from an account.
     *
     * @return a code by which its holder sets a new one, once, within three days
     */
    String reset(long id, String who) {
        Account account = account(id);
        String code = freshCode(), hash = encoder.encode(code);
        transaction.executeWithoutResult(status -> {
            repository.saveCode(id, NONE, hash, clock.instant().plus(CODE_HOLDS));
            events.record(who, About.account(id), new Fact.PasswordReset());
        });
        endSessions(account.username(), "");
        return code;
    }

    /** @throws Refusal when the code is not the one of this account, or too old, or the new password is not taken */
    void setPassword(String username, String code, String next) {
        String given = code.strip().toUpperCase(Locale.ROOT);
        Refusal wrong = new Refusal("That name and code do not belong together, or the code was used or is too old.");
        String known = repository.code(username, clock.instant()).filter(hash -> encoder.matches(given, hash)).orElseThrow(() -> wrong);
        String hash = hash(next, username);
        transaction.executeWithoutResult(status -> {
            if (!repository.useCode(username, known, hash)) {
                throw wrong;
            }
        });
    }

    /** Takes a while on purpose, so that it is done before a transaction in which other writers would wait for it. */
    private String hash(String password, String username) {
        Passwords.check(password, username);
        return encoder.encode(password);
    }

    /** @throws Refusal when nobody would be left to decide */
    @Transactional
    void close(long id, String who) {
        Account account = account(id);
        if (account.role() == Role.COORDINATOR && repository.openCoordinators() < 2 && !account.closed()) {
            throw new Refusal("“%s” is the only coordinator left. Let somebody else sign in as one first.".formatted(account.username()));
        }
        repository.saveClosed(id, true);
        events.record(who, About.account(id), new Fact.AccountClosed());
        endSessions(account.username(), "");
    }

    @Transactional
    void reopen(long id, String who) {
        repository.saveClosed(id, false);
        events.record(who, About.account(id), new Fact.AccountReopened());
    }

    /** Closes the accounts of a member who is forgotten, and takes their names. */
    @Transactional
    public void forget(long memberId, String who) {
        for (Account account : repository.accountsOf(memberId)) {
            repository.forgetAccount(account.id(), "former-" + account.id());
            events.record(who, About.account(account.id()), new Fact.AccountClosed());
            endSessions(account.username(), "");
        }
    }

    private Account account(long id) {
        return all().stream().filter(account -> account.id() == id).findFirst().orElseThrow();
    }

    private void endSessions(String username, String butThis) {
        sessions.getAllPrincipals().stream().filter(principal -> principal instanceof UserDetails user
                && user.getUsername().equalsIgnoreCase(username)).flatMap(principal ->
                sessions.getAllSessions(principal, false).stream()).filter(session -> !session.getSessionId().equals(butThis))
                .forEach(SessionInformation::expireNow);
    }
}
