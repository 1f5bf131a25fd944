package fabbrica.web.platform;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistration;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * Scripts, styles and fonts that ship with the application, each kind under its own addresses: any other link on a page is none of
 * them, and nobody looks it up among files.
 */
@Configuration
class StaticFiles implements WebMvcConfigurer {

    private static final CacheControl AN_HOUR = CacheControl.maxAge(Duration.ofHours(1));

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        served(registry, "classpath:/static/", "/*.js", "/*.css", "/*.svg");
        served(registry, "classpath:/static/fonts/", "/fonts/**");
        served(registry, "classpath:/META-INF/resources/webjars/", "/webjars/**").resourceChain(true);
    }

    private static ResourceHandlerRegistration served(ResourceHandlerRegistry registry, String from, String... addresses) {
        return registry.addResourceHandler(addresses).addResourceLocations(from).setCacheControl(AN_HOUR);
    }
}
