package fabbrica.web.account;

import fabbrica.web.platform.Refusal;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Accounts that can sign in. */
@Service
public class Accounts implements UserDetailsService {

    private static final int SHORTEST_PASSWORD = 10;
    /** BCrypt reads no further. */
    private static final int LONGEST_PASSWORD_BYTES = 72;

    private final AccountRepository repository;
    private final PasswordEncoder encoder;

    Accounts(AccountRepository repository, PasswordEncoder encoder) {
        this.repository = repository;
        this.encoder = encoder;
    }

    @Override
    public UserDetails loadUserByUsername(String username) {
        return repository.account(username).orElseThrow(() -> new UsernameNotFoundException("unknown"));
    }

    public boolean any() {
        return repository.hasAccounts();
    }

    /** @param memberId the member behind a {@link Role#MEMBER} account, else null */
    @Transactional
    public void add(String username, String password, Role role, String name, Long memberId) {
        if (password == null || password.length() < SHORTEST_PASSWORD
                || password.getBytes(java.nio.charset.StandardCharsets.UTF_8).length > LONGEST_PASSWORD_BYTES) {
            throw new Refusal("The password needs %d to %d characters.".formatted(SHORTEST_PASSWORD,
                    LONGEST_PASSWORD_BYTES));
        }
        if (repository.account(username).isPresent()) {
            throw new Refusal("The name “" + username + "” is taken.");
        }
        repository.insertAccount(username, encoder.encode(password), role, name, memberId);
    }
}
