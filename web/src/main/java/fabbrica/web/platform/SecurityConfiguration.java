package fabbrica.web.platform;

import fabbrica.web.platform.gate.Access;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Comparator;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.session.SessionRegistry;
import org.springframework.security.core.session.SessionRegistryImpl;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.SavedRequestAwareAuthenticationSuccessHandler;
import org.springframework.security.web.authentication.UsernamePasswordAuthenticationFilter;
import org.springframework.security.web.savedrequest.HttpSessionRequestCache;
import org.springframework.security.web.session.HttpSessionEventPublisher;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.pattern.PathPattern;

/** Signing in, and who may do what by the table of {@link Access}. */
@Configuration
class SecurityConfiguration {

    private static final String COORDINATOR = "COORDINATOR";
    private static final String SIGN_IN = "/sign-in";

    @Bean
    SecurityFilterChain rules(HttpSecurity http, SignInGuard guard, SessionRegistry sessions) throws Exception {
        HttpSessionRequestCache asked = new HttpSessionRequestCache();
        asked.setRequestMatcher(SecurityConfiguration::isWholePage);
        SavedRequestAwareAuthenticationSuccessHandler toWhereItWasAsked = new SavedRequestAwareAuthenticationSuccessHandler();
        toWhereItWasAsked.setRequestCache(asked);
        return http
                .requestCache(cache -> cache.requestCache(asked))
                .authorizeHttpRequests(requests -> {
                    requests.dispatcherTypeMatchers(DispatcherType.ERROR).permitAll();
                    Access.routes().stream().sorted(Comparator.comparing(Access.Route::pattern, PathPattern.SPECIFICITY_COMPARATOR))
                            .forEach(route -> {
                        var matched = requests.requestMatchers(route.method(), route.pattern().getPatternString());
                        if (route.isOpen()) {
                            matched.permitAll();
                        } else {
                            matched.hasAnyRole(route.roles().toArray(String[]::new));
                        }
                    });
                    requests.anyRequest().hasRole(COORDINATOR);
                })
                .exceptionHandling(handling -> handling.authenticationEntryPoint((request, response, why) ->
                        signInAgain(request, response)))
                .formLogin(form -> form.loginPage(SIGN_IN).successHandler((request, response, who) -> {
                    guard.succeeded(request, response, who.getName());
                    toWhereItWasAsked.onAuthenticationSuccess(request, response, who);
                }).failureHandler((request, response, failure) -> {
                    guard.failed(request, name(request));
                    response.sendRedirect(SIGN_IN + "?error");
                }).permitAll())
                .addFilterBefore(new SlowedDown(guard), UsernamePasswordAuthenticationFilter.class)
                .sessionManagement(management -> management.maximumSessions(-1).sessionRegistry(sessions)
                        .expiredSessionStrategy(expired -> signInAgain(expired.getRequest(), expired.getResponse())))
                .logout(logout -> logout.logoutUrl("/sign-out").logoutSuccessUrl("/sign-in?out"))
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(
                        "default-src 'self'; script-src 'self' " + ImportMap.source() + "; img-src 'self' data:; frame-ancestors 'none'; form-action 'self'")))
                .build();
    }

    @Bean
    SessionRegistry sessions() {
        return new SessionRegistryImpl();
    }

    /** Tells the registry when sessions end. */
    @Bean
    HttpSessionEventPublisher sessionEvents() {
        return new HttpSessionEventPublisher();
    }

    /** Whether somebody wanted to go there, and not a page that fetched a piece of itself, a picture or a model. */
    private static boolean isWholePage(HttpServletRequest request) {
        return request.getMethod().equals("GET") && !byScript(request) && String.valueOf(request.getHeader(HttpHeaders.ACCEPT)).contains(MediaType.TEXT_HTML_VALUE);
    }

    private static boolean byScript(HttpServletRequest request) {
        return request.getHeader("HX-Request") != null;
    }

    /** A script that asked for a piece of a page is told; it never gets the sign-in page to put in its place. */
    private static void signInAgain(HttpServletRequest request, HttpServletResponse response) throws IOException {
        if (byScript(request)) {
            response.setStatus(HttpServletResponse.SC_UNAUTHORIZED);
        } else {
            response.sendRedirect(SIGN_IN);
        }
    }

    private static String name(HttpServletRequest request) {
        return String.valueOf(request.getParameter("username")).strip();
    }

    /** Turns tries at signing in away that come too fast, before their password is looked at. */
    private static final class SlowedDown extends OncePerRequestFilter {

        private final SignInGuard guard;

        SlowedDown(SignInGuard guard) {
            this.guard = guard;
        }

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws ServletException, IOException {
            if (request.getMethod().equals("POST") && request.getServletPath().equals(SIGN_IN)) {
                Duration wait = guard.toWait(request, name(request));
                if (wait.isPositive()) {
                    response.sendRedirect(SIGN_IN + "?wait=" + (wait.toSeconds() + 1));
                    return;
                }
            }
            chain.doFilter(request, response);
        }
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder();
    }
}
