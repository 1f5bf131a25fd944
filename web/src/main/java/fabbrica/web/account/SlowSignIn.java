package fabbrica.web.account;

import fabbrica.web.platform.SignInGuard;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Component;

/** Keeps the pace of signing in, by name, address and browser. */
@Component
class SlowSignIn implements SignInGuard {

    private final SignInPace pace;
    private final KnownBrowsers browsers;

    SlowSignIn(SignInPace pace, KnownBrowsers browsers) {
        this.pace = pace;
        this.browsers = browsers;
    }

    @Override
    public Duration toWait(HttpServletRequest request, String username) {
        return pace.toWait(username, request.getRemoteAddr(), browsers.knows(request, username));
    }

    @Override
    public void failed(HttpServletRequest request, String username) {
        pace.failed(username, request.getRemoteAddr(), browsers.knows(request, username));
    }

    @Override
    public void succeeded(HttpServletRequest request, HttpServletResponse response, String username) {
        pace.succeeded(username, request.getRemoteAddr(), browsers.knows(request, username));
        response.addHeader(HttpHeaders.SET_COOKIE, browsers.cookie(request, username).toString());
    }
}
