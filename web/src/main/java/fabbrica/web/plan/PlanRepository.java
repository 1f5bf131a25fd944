package fabbrica.web.plan;

import static fabbrica.web.platform.storage.Columns.longOrNull;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.web.platform.Caches;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of plans. */
@Repository
class PlanRepository {

    private final JdbcClient jdbc;
    private final ObjectMapper json;
    /** Read once: many plans have the same. */
    private final Cache<String, Recipe> recipes = Caches.of(500).build();

    PlanRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    Optional<Plan> find(long id) {
        return jdbc.sql("select * from plan where id = ?").params(id).query(this::read).optional();
    }

    /** The plans with these values that there are, in the order of the values. */
    List<Plan> find(List<PlanEntry> entries) {
        return jdbc.sql("""
                select p.* from json_each(?) e join plan p on p.recipe = e.value->>'recipe' and p.printer_id = e.value->>'printer'
                    and coalesce(p.spool_id, 0) = coalesce(e.value->>'spool', 0) and p.starting_point = e.value->>'start' and p.fresh = e.value->>'fresh'
                order by e.key""").params(values(entries)).query(this::read).list();
    }

    /** Stores the plans with these values that there are not. */
    void insertMissing(List<PlanEntry> entries, Instant at) {
        jdbc.sql("""
                insert into plan (starting_point, recipe, printer_id, spool_id, fresh, made_at)
                select value->>'start', value->>'recipe', value->>'printer', value->>'spool', value->>'fresh', ? from json_each(?) where true
                on conflict do nothing""").params(at.toEpochMilli(), values(entries)).update();
    }

    /** As a list in JSON; a recipe in it is a text, so that it is compared to the last bit. */
    private String values(List<PlanEntry> entries) {
        return json.writeValueAsString(entries.stream().map(entry -> new Values(entry.start().code(), json.writeValueAsString(entry.recipe()),
                entry.printerId(), entry.spoolId(), entry.fresh())).toList());
    }

    private record Values(String start, String recipe, String printer, @Nullable Long spool, boolean fresh) {
    }

    /** Plans that nothing names and that were made before a moment. */
    void deleteUnused(Instant before) {
        jdbc.sql("""
                delete from plan where made_at < ? and not exists (select 1 from ticket t where t.plan_id = plan.id)
                and not exists (select 1 from plate p where p.plan_id = plan.id)""").params(before.toEpochMilli()).update();
    }

    Plan read(ResultSet row, int number) throws SQLException {
        return new Plan(row.getLong("id"), new PlanEntry(StartingPoint.ofCode(row.getString("starting_point")).orElse(StartingPoint.DAILY_BREAD),
                recipes.get(row.getString("recipe"), stored -> json.readValue(stored, Recipe.class)), row.getString("printer_id"), longOrNull(row, "spool_id"),
                row.getBoolean("fresh")));
    }
}
