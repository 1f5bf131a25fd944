package fabbrica.web.platform.gate;

import fabbrica.web.platform.storage.DataFolder;
import jakarta.servlet.MultipartConfigElement;
import jakarta.servlet.ServletException;
import java.io.IOException;
import java.util.concurrent.Executors;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.apache.coyote.InputBuffer;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.env.Environment;
import org.springframework.util.unit.DataSize;

/**
 * How requests are read: each on a virtual thread, which costs next to nothing while somebody sends slowly. What is then
 * done with them is done by the {@link Hands}.
 */
@Configuration
class TomcatConfiguration {

    /** Parts above this are written to disk while they come. */
    private static final DataSize IN_MEMORY = DataSize.ofKilobytes(64);
    /** The lab's own limit is looked at before; no lab may set more than this. */
    private static final DataSize LARGEST = DataSize.ofGigabytes(2);

    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> readers() {
        return tomcat -> {
            tomcat.addProtocolHandlerCustomizers(protocol -> protocol.setExecutor(
                    Executors.newThreadPerTaskExecutor(Thread.ofVirtual().name("reader-", 0).factory())));
            tomcat.addEngineValves(new Paced());
        };
    }

    /** Uploads on their way wait in the data folder, where only its owner may look. */
    @Bean
    MultipartConfigElement uploads(Environment environment) {
        return new MultipartConfigElement(DataFolder.incoming(DataFolder.of(environment)).toAbsolutePath().toString(),
                LARGEST.toBytes(), LARGEST.toBytes(), (int) IN_MEMORY.toBytes());
    }

    private static final class Paced extends ValveBase {

        Paced() {
            super(true);
        }

        @Override
        public void invoke(Request request, Response response) throws IOException, ServletException {
            InputBuffer body = request.getCoyoteRequest().getInputBuffer();
            request.getCoyoteRequest().setInputBuffer(new Pace(body, System::nanoTime));
            try {
                getNext().invoke(request, response);
            } finally {
                request.getCoyoteRequest().setInputBuffer(body);
            }
        }
    }
}
