package fabbrica.web.platform;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.recipe.Part;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of what was measured. */
@Repository
class InspectionRepository {

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    InspectionRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** What this version of the core measured. */
    Optional<Inspection> find(Part part) {
        return jdbc.sql("select measures from inspection where lying = ? and core_version = ?")
                .params(json.writeValueAsString(part), CoreVersion.current()).query(String.class).optional()
                .map(measures -> json.readValue(measures, Inspection.class));
    }

    void save(Part part, Inspection measured) {
        jdbc.sql("insert or replace into inspection (lying, core_version, measures) values (?, ?, ?)")
                .params(json.writeValueAsString(part), CoreVersion.current(), json.writeValueAsString(measured)).update();
    }
}
