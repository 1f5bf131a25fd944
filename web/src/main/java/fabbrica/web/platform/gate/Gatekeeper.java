package fabbrica.web.platform.gate;

import fabbrica.web.platform.storage.StorageFault;
import jakarta.servlet.FilterChain;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.GrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.stereotype.Component;
import org.springframework.util.unit.DataSize;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Meets every request first. One with a body from somebody who may not send it, or larger than is taken in, is turned away
 * unread; any other body is read to its end here, on a thread that costs nothing, and only then is a hand taken for it.
 * What is asked for is checked again behind, by the rules of security.
 */
@Component
@Order(Gatekeeper.BEFORE_SECURITY)
class Gatekeeper extends OncePerRequestFilter {

    static final int BEFORE_SECURITY = -200;

    private static final String ROLE = "ROLE_";
    private static final Logger LOG = LoggerFactory.getLogger(Gatekeeper.class);
    private static final DataSize LARGEST_FORM = DataSize.ofMegabytes(1);
    /** What a form holds beside its file. */
    private static final DataSize AROUND_A_FILE = DataSize.ofMegabytes(1);

    private final UploadLimit limit;
    private final Hands hands;

    Gatekeeper(UploadLimit limit, Hands hands) {
        this.limit = limit;
        this.hands = hands;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        Optional<Authentication> who = who(request);
        if (hasBody(request) && !takesBody(request, response, who)) {
            return;
        }
        try {
            hands.work(who.map(Authentication::getName).orElse(request.getRemoteAddr()), () -> {
                chain.doFilter(request, response);
                return null;
            });
        } catch (ServletException | IOException | RuntimeException e) {
            throw e;
        } catch (Exception e) {
            throw new ServletException(e);
        }
    }

    /** Reads the body, or turns it away and says so. */
    private boolean takesBody(HttpServletRequest request, HttpServletResponse response, Optional<Authentication> who)
            throws IOException, ServletException {
        Optional<Access.Route> route = Access.route(HttpMethod.valueOf(request.getMethod()), request.getServletPath())
                .filter(row -> row.allows(who.map(Gatekeeper::role).orElse("")));
        if (route.isEmpty()) {
            return turnAway(request, response, who.isEmpty() ? HttpServletResponse.SC_UNAUTHORIZED : HttpServletResponse.SC_FORBIDDEN);
        }
        boolean parts = String.valueOf(request.getContentType()).startsWith(MediaType.MULTIPART_FORM_DATA_VALUE);
        if (parts && request.getContentLengthLong() < 0) {
            return turnAway(request, response, HttpServletResponse.SC_LENGTH_REQUIRED);
        }
        if (request.getContentLengthLong() > (route.get().file() ? limit.limitBytes() + AROUND_A_FILE.toBytes() : LARGEST_FORM.toBytes())) {
            return turnAway(request, response, HttpServletResponse.SC_REQUEST_ENTITY_TOO_LARGE);
        }
        try {
            if (parts) {
                request.getParts();
            } else {
                request.getParameterMap();
            }
            return true;
        } catch (IOException e) {
            return turnAway(request, response, StorageFault.behind(e) == StorageFault.OTHER ? HttpServletResponse.SC_REQUEST_TIMEOUT
                    : HttpStatus.INSUFFICIENT_STORAGE.value());
        } catch (IllegalStateException large) {
            return turnAway(request, response, HttpServletResponse.SC_REQUEST_ENTITY_TOO_LARGE);
        }
    }

    /**
     * The connection ends with it, so that what is left of the body is not read to be thrown away. Where somebody has hung up
     * nobody is left to be answered.
     */
    private static boolean turnAway(HttpServletRequest request, HttpServletResponse response, int status)
            throws IOException, ServletException {
        LOG.debug("{} {}: {}", request.getMethod(), request.getRequestURI(), status);
        if (response.isCommitted()) {
            return false;
        }
        response.setHeader(HttpHeaders.CONNECTION, "close");
        response.setStatus(status);
        request.setAttribute(RequestDispatcher.ERROR_STATUS_CODE, status);
        request.getRequestDispatcher("/error").forward(new Unread(request), response);
        return false;
    }

    private static boolean hasBody(HttpServletRequest request) {
        return request.getContentLengthLong() > 0 || request.getHeader(HttpHeaders.TRANSFER_ENCODING) != null;
    }

    /** Who has signed in, as the session says it. */
    private static Optional<Authentication> who(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        return session != null && session.getAttribute(HttpSessionSecurityContextRepository.SPRING_SECURITY_CONTEXT_KEY)
                instanceof SecurityContext context ? Optional.ofNullable(context.getAuthentication()) : Optional.empty();
    }

    static String role(Authentication who) {
        return who.getAuthorities().stream().map(GrantedAuthority::getAuthority).filter(name -> name.startsWith(ROLE))
                .map(name -> name.substring(ROLE.length())).findFirst().orElse("");
    }
}
