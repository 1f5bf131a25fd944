package fabbrica.web.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;

/** Whoever watches over tries at signing in. */
public interface SignInGuard {

    /** How long this browser has to wait before it may try by that name; zero or less when it may. */
    Duration toWait(HttpServletRequest request, String username);

    void failed(HttpServletRequest request, String username);

    void succeeded(HttpServletRequest request, HttpServletResponse response, String username);
}
