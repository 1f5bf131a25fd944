package fabbrica.web.platform;

import fabbrica.web.platform.storage.Sha256;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.core.io.ClassPathResource;

/** Where scripts find the libraries they name, as every page tells browsers. It is the one script that stands in a page. */
final class ImportMap {

    private static final Pattern MAP = Pattern.compile("<script type=\"importmap\">(.*?)</script>", Pattern.DOTALL);

    private ImportMap() {
    }

    /** Its hash, as a source for {@code script-src}: Content Security Policy Level 3, 2.3.1. */
    static String source() {
        try {
            Matcher map = MAP.matcher(new ClassPathResource("templates/layout.html").getContentAsString(StandardCharsets.UTF_8));
            if (!map.find()) {
                throw new IllegalStateException("no import map in the layout");
            }
            return "'sha256-" + Base64.getEncoder().encodeToString(Sha256.digest().digest(map.group(1).getBytes(StandardCharsets.UTF_8))) + "'";
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
