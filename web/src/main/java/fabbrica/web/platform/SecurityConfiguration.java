package fabbrica.web.platform;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;

/**
 * Who may do what: members see their own tickets, helpers take in files and run the floor, coordinators decide and
 * change the stores.
 */
@Configuration
class SecurityConfiguration {

    private static final String COORDINATOR = "COORDINATOR";
    private static final String HELPER = "HELPER";

    @Bean
    SecurityFilterChain rules(HttpSecurity http) throws Exception {
        return http
                .authorizeHttpRequests(requests -> requests
                        .requestMatchers("/sign-in", "/setup", "/style.css", "/app.js", "/gauge.js", "/layers.js", "/boxes.js", "/fonts/**", "/webjars/**",
                                "/error", "/favicon.svg").permitAll()
                        .requestMatchers(HttpMethod.POST, "/stores/**", "/tickets/*/accept", "/tickets/*/send-back",
                                "/tickets/*/decline", "/members/accounts").hasRole(COORDINATOR)
                        .requestMatchers("/stores/*/*", "/stores/*/*/**").hasRole(COORDINATOR)
                        .requestMatchers("/", "/mine", "/handbook").authenticated()
                        .anyRequest().hasAnyRole(COORDINATOR, HELPER))
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
