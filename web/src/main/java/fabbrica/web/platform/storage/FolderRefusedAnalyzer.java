package fabbrica.web.platform.storage;

import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;

/** Says at a start that failed why, instead of where; named in {@code META-INF/spring.factories}. */
final class FolderRefusedAnalyzer extends AbstractFailureAnalyzer<FolderRefused> {

    @Override
    protected FailureAnalysis analyze(Throwable root, FolderRefused cause) {
        return new FailureAnalysis(cause.getMessage(), null, cause);
    }
}
