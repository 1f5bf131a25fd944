package fabbrica.web.ledger;

import com.openhtmltopdf.extend.FSStream;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.svgsupport.BatikSVGDrawer;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Say;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Component;
import org.thymeleaf.context.Context;
import org.thymeleaf.spring6.SpringTemplateEngine;

/** The report as PDF (ISO 32000), with its typefaces in it, set on A4. */
@Component
class BoardPaper {

    private static final int REGULAR = 400;
    private static final int BOLD = 600;

    private final SpringTemplateEngine templates;
    private final Say say;
    private final Moments moments;

    BoardPaper(SpringTemplateEngine templates, Say say, Moments moments) {
        this.templates = templates;
        this.say = say;
        this.moments = moments;
    }

    /** The stream stays open. */
    void write(BoardPage report, OutputStream out) throws IOException {
        PdfRendererBuilder pdf = new PdfRendererBuilder();
        for (int weight : new int[] {REGULAR, BOLD}) {
            pdf.useFont(() -> resource("fonts/barlow-latin-%d-normal.ttf".formatted(weight)), "Barlow", weight, FontStyle.NORMAL, true);
        }
        pdf.useFont(() -> resource("org/apache/pdfbox/resources/ttf/LiberationSans-Regular.ttf"), "Beyond", REGULAR, FontStyle.NORMAL, true);
        try (BatikSVGDrawer drawings = new BatikSVGDrawer()) {
            pdf.useSVGDrawer(drawings);
            pdf.useProtocolsStreamImplementation(Shipped::new, "classpath");
            pdf.withHtmlContent(templates.process("ledger/board-paper", new Context(Locale.ENGLISH, Map.of("page", report, "say", say, "moments", moments))), null);
            pdf.toStream(out);
            pdf.run();
        }
    }

    /** A file that ships with the application. @param uri such as classpath:report.css */
    private record Shipped(String uri) implements FSStream {

        @Override
        public InputStream getStream() {
            return resource(uri.substring(uri.indexOf(':') + 1));
        }

        @Override
        public Reader getReader() {
            return new InputStreamReader(getStream(), StandardCharsets.UTF_8);
        }
    }

    private static InputStream resource(String path) {
        try {
            return new ClassPathResource(path).getInputStream();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
