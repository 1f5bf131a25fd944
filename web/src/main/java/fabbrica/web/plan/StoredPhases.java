package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Phase;
import fabbrica.web.platform.Caches;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.ObjectMapper;

/** Seconds of each phase as they are kept with a promise; many promises are alike. */
@Component
public class StoredPhases {

    private static final int MOST = 3000;
    private static final TypeReference<Map<Phase, Double>> PHASES = new TypeReference<>() { };

    private final ObjectMapper json;
    private final Cache<String, Map<Phase, Double>> read = Caches.of(MOST).build();

    StoredPhases(ObjectMapper json) {
        this.json = json;
    }

    public Map<Phase, Double> of(String stored) {
        return read.get(stored, this::read);
    }

    private Map<Phase, Double> read(String stored) {
        Map<Phase, Double> phases = new EnumMap<>(Phase.class);
        phases.putAll(json.readValue(stored, PHASES));
        return Collections.unmodifiableMap(phases);
    }
}
