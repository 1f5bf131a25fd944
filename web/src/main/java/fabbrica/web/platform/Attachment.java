package fabbrica.web.platform;

import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;

/** An answer that a browser keeps as a file (RFC 6266). */
public final class Attachment {

    private Attachment() {
    }

    /** To be called before anything is written. */
    public static void head(HttpServletResponse response, String contentType, String fileName) {
        response.setContentType(contentType);
        response.setHeader(HttpHeaders.CONTENT_DISPOSITION, ContentDisposition.attachment().filename(fileName, StandardCharsets.UTF_8).build().toString());
    }
}
