package fabbrica.web.plan;

import static fabbrica.web.platform.storage.Columns.longOrNull;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of plans. */
@Repository
class PlanRepository {

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    PlanRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    Optional<Plan> find(long id) {
        return jdbc.sql("select * from plan where id = ?").params(id).query(this::read).optional();
    }

    Optional<Plan> find(PlanEntry entry) {
        return jdbc.sql("""
                select * from plan where recipe = ? and printer_id = ? and coalesce(spool_id, 0) = ? and starting_point = ? and fresh = ?""")
                .params(json.writeValueAsString(entry.recipe()), entry.printerId(), entry.spoolId() == null ? 0 : entry.spoolId(),
                        entry.start().code(), entry.fresh()).query(this::read).optional();
    }

    long insert(PlanEntry entry, Instant at) {
        return jdbc.sql("""
                insert into plan (starting_point, recipe, printer_id, spool_id, fresh, made_at) values (?, ?, ?, ?, ?, ?) returning id""")
                .params(Arrays.asList(entry.start().code(), json.writeValueAsString(entry.recipe()), entry.printerId(), entry.spoolId(),
                        entry.fresh(), at.toEpochMilli())).query(Long.class).single();
    }

    /** Plans that nothing names and that were made before a moment. */
    void deleteUnused(Instant before) {
        jdbc.sql("""
                delete from plan where made_at < ? and not exists (select 1 from ticket t where t.plan_id = plan.id)
                and not exists (select 1 from plate p where p.plan_id = plan.id)""").params(before.toEpochMilli()).update();
    }

    Plan read(ResultSet row, int number) throws SQLException {
        return new Plan(row.getLong("id"), new PlanEntry(StartingPoint.ofCode(row.getString("starting_point")).orElse(StartingPoint.DAILY_BREAD),
                json.readValue(row.getString("recipe"), Recipe.class), row.getString("printer_id"), longOrNull(row, "spool_id"),
                row.getBoolean("fresh")));
    }
}
