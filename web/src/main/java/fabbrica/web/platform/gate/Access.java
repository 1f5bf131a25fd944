package fabbrica.web.platform.gate;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.http.HttpMethod;
import org.springframework.http.server.PathContainer;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/** Who may do what, as the table {@code access.txt} says it; what has no row is for coordinators. */
public final class Access {

    private static final String ANYONE = "anyone";
    private static final String FILE = "file";
    private static final List<Route> ROUTES = read();

    private Access() {
    }

    /**
     * A row of the table.
     *
     * @param roles in capital letters; empty when no account is needed
     * @param file  whether it takes files
     */
    public record Route(HttpMethod method, PathPattern pattern, List<String> roles, boolean file) {

        public boolean isOpen() {
            return roles.isEmpty();
        }

        /** @param role of who asks; empty for somebody who has not signed in */
        boolean allows(String role) {
            return isOpen() || roles.contains(role);
        }
    }

    public static List<Route> routes() {
        return ROUTES;
    }

    /** @param path as asked for, without its query */
    static Optional<Route> route(HttpMethod method, String path) {
        PathContainer parsed = PathContainer.parsePath(path);
        return ROUTES.stream().filter(route -> route.method().equals(method) && route.pattern().matches(parsed))
                .min((one, other) -> PathPattern.SPECIFICITY_COMPARATOR.compare(one.pattern(), other.pattern()));
    }

    /** Whether whoever asks for the page at hand may send a form to this path. */
    public static boolean mayPost(String path) {
        return Optional.ofNullable(SecurityContextHolder.getContext().getAuthentication())
                .flatMap(who -> route(HttpMethod.POST, path).filter(route -> route.allows(Gatekeeper.role(who)))).isPresent();
    }

    /** Whether there is something to look at. */
    public static boolean isPage(String path) {
        return route(HttpMethod.GET, path).isPresent();
    }

    private static List<Route> read() {
        try (BufferedReader table = new BufferedReader(new InputStreamReader(
                Access.class.getResourceAsStream("/access.txt"), StandardCharsets.UTF_8))) {
            return table.lines().filter(line -> !line.isBlank() && !line.startsWith("#")).map(Access::route).toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Route route(String line) {
        List<String> words = Arrays.asList(line.split("\\s+"));
        boolean file = words.getLast().equals(FILE);
        List<String> who = words.subList(2, words.size() - (file ? 1 : 0));
        return new Route(HttpMethod.valueOf(words.get(0)), PathPatternParser.defaultInstance.parse(words.get(1)),
                who.equals(List.of(ANYONE)) ? List.of() : who.stream().map(role -> role.toUpperCase(Locale.ROOT)).toList(), file);
    }
}
