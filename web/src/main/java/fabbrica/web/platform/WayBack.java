package fabbrica.web.platform;

import fabbrica.web.platform.gate.Access;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.ModelAndView;
import org.springframework.web.servlet.support.RequestContextUtils;
import tools.jackson.databind.ObjectMapper;

/**
 * Leads a form that was refused back to the page it was sent from, which says why and shows what was entered. Files and passwords
 * have to be given again: browsers let nobody else fill them in.
 */
@Component
class WayBack {

    static final String REFUSED = "refused";
    private static final String ENTERED = "entered";
    private static final Set<String> NEVER = Set.of("_csrf", "token", "seen", "password", "present", "next", "code");

    private final ObjectMapper json;

    WayBack(ObjectMapper json) {
        this.json = json;
    }

    /** A form as it was filled in, for the page's script to fill it in again. */
    private record Entered(String address, Map<String, String[]> values) {
    }

    /** Nothing when nobody knows which page that was. */
    Optional<ModelAndView> from(HttpServletRequest request, String why) {
        return address(request).map(address -> {
            FlashMap flash = RequestContextUtils.getOutputFlashMap(request);
            flash.put(REFUSED, why);
            Map<String, String[]> values = new TreeMap<>(request.getParameterMap());
            values.keySet().removeAll(NEVER);
            flash.put(ENTERED, json.writeValueAsString(new Entered(request.getRequestURI(), values)));
            return new ModelAndView("redirect:" + address);
        });
    }

    /** The page of this house from which a form came; when that was the answer to a form, the one above it. */
    private static Optional<String> address(HttpServletRequest request) {
        if (!request.getMethod().equals("POST") || request.getHeader("HX-Request") != null) {
            return Optional.empty();
        }
        try {
            URI referer = URI.create(String.valueOf(request.getHeader(HttpHeaders.REFERER)));
            if (referer.getAuthority() == null || !referer.getAuthority().equals(request.getHeader(HttpHeaders.HOST))) {
                return Optional.empty();
            }
            String path = referer.getRawPath();
            if (Access.isPage(path)) {
                return Optional.of(path + (referer.getRawQuery() == null ? "" : "?" + referer.getRawQuery()));
            }
            String above = path.substring(0, Math.max(0, path.lastIndexOf('/')));
            return Access.isPage(above) ? Optional.of(above) : Optional.empty();
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }
}
