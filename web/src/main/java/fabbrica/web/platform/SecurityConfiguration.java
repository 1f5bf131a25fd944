package fabbrica.web.platform;

import fabbrica.web.platform.gate.Access;
import jakarta.servlet.DispatcherType;
import java.util.Comparator;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.HttpStatusEntryPoint;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.util.matcher.AnyRequestMatcher;
import org.springframework.web.util.pattern.PathPattern;

/** Signing in, and who may do what by the table of {@link Access}. */
@Configuration
class SecurityConfiguration {

    private static final String COORDINATOR = "COORDINATOR";

    @Bean
    SecurityFilterChain rules(HttpSecurity http) throws Exception {
        return http
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
                // A script that asked for a piece of a page is told; it never gets the sign-in page to put in its place.
                .exceptionHandling(handling -> handling.defaultAuthenticationEntryPointFor(
                        new HttpStatusEntryPoint(HttpStatus.UNAUTHORIZED), request -> request.getHeader("HX-Request") != null)
                        .defaultAuthenticationEntryPointFor(new LoginUrlAuthenticationEntryPoint("/sign-in"), AnyRequestMatcher.INSTANCE))
                .formLogin(form -> form.loginPage("/sign-in").defaultSuccessUrl("/").permitAll())
                .logout(logout -> logout.logoutUrl("/sign-out").logoutSuccessUrl("/sign-in?out"))
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(
                        "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; "
                                + "frame-ancestors 'none'; form-action 'self'")))
                .build();
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder();
    }
}
