package fabbrica.web.account;

import fabbrica.web.platform.storage.Sha256;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Locale;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.http.ResponseCookie;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Browsers on which an account has signed in before: they carry a cookie that only this lab can have made. */
@Component
class KnownBrowsers {

    private static final Duration KEPT = Duration.ofDays(180);
    private static final String ALGORITHM = "HmacSHA256";
    private static final int NAME_DIGITS = 12;
    private static final int SECRET_BYTES = 32;

    private final AccountRepository repository;
    private final TransactionTemplate transaction;

    KnownBrowsers(AccountRepository repository, TransactionTemplate transaction) {
        this.repository = repository;
        this.transaction = transaction;
    }

    boolean knows(HttpServletRequest request, String username) {
        Cookie[] cookies = request.getCookies();
        return cookies != null && Arrays.stream(cookies).anyMatch(cookie -> cookie.getName().equals(cookieName(username))
                && MessageDigest.isEqual(cookie.getValue().getBytes(StandardCharsets.UTF_8), mark(username).getBytes(StandardCharsets.UTF_8)));
    }

    ResponseCookie cookie(HttpServletRequest request, String username) {
        return ResponseCookie.from(cookieName(username), mark(username)).path("/sign-in").maxAge(KEPT).httpOnly(true).sameSite("Strict")
                .secure(request.isSecure()).build();
    }

    /** One for each name, so that people who share a browser are all known on it. */
    private static String cookieName(String username) {
        return "known-" + HexFormat.of().formatHex(Sha256.digest().digest(lower(username))).substring(0, NAME_DIGITS);
    }

    private String mark(String username) {
        try {
            Mac mac = Mac.getInstance(ALGORITHM);
            mac.init(new SecretKeySpec(HexFormat.of().parseHex(secret()), ALGORITHM));
            return HexFormat.of().formatHex(mac.doFinal(lower(username)));
        } catch (NoSuchAlgorithmException | InvalidKeyException e) {
            throw new IllegalStateException(e);
        }
    }

    private String secret() {
        return repository.secret().orElseGet(() -> transaction.execute(status -> repository.secret().orElseGet(() -> {
            byte[] bytes = new byte[SECRET_BYTES];
            new SecureRandom().nextBytes(bytes);
            String secret = HexFormat.of().formatHex(bytes);
            repository.insertSecret(secret);
            return secret;
        })));
    }

    private static byte[] lower(String username) {
        return username.toLowerCase(Locale.ROOT).getBytes(StandardCharsets.UTF_8);
    }
}
