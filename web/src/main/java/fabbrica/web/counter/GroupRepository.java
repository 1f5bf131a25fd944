package fabbrica.web.counter;

import fabbrica.web.platform.storage.Columns;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.TicketState;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of groups and of what belongs to them. */
@Repository
class GroupRepository {

    private final JdbcClient jdbc;

    GroupRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    long insert(String name, @Nullable Purpose purpose, @Nullable Instant neededBy, Instant at) {
        return jdbc.sql("insert into ticket_group (name, purpose, needed_by, made_at) values (?, ?, ?, ?) returning id")
                .params(Arrays.asList(name, purpose == null ? null : purpose.name(), Columns.millis(neededBy), at.toEpochMilli())).query(Long.class).single();
    }

    void save(Group group) {
        jdbc.sql("update ticket_group set name = ?, purpose = ?, needed_by = ? where id = ?").params(Arrays.asList(group.name(),
                group.purpose() == null ? null : group.purpose().name(), Columns.millis(group.neededBy()), group.id())).update();
    }

    Optional<Group> group(long id) {
        return jdbc.sql("select * from ticket_group where id = ?").params(id).query(GroupRepository::read).optional();
    }

    /** Of those with a ticket on which something is still to be done, the most urgent first. */
    List<Group> open(List<TicketState> states) {
        return jdbc.sql("""
                select * from ticket_group g where exists (select 1 from ticket t where t.group_id = g.id and t.state in (:states))
                order by needed_by is null, needed_by, id""").param("states", states.stream().map(Enum::name).toList()).query(GroupRepository::read).list();
    }

    List<Long> tickets(long group) {
        return jdbc.sql("select id from ticket where group_id = ? order by id").params(group).query(Long.class).list();
    }

    /** How many tickets of some groups are in each state. */
    Map<Long, Map<TicketState, Integer>> counts(Collection<Long> groups) {
        Map<Long, Map<TicketState, Integer>> counts = new HashMap<>();
        if (!groups.isEmpty()) {
            jdbc.sql("select group_id, state, count(*) as n from ticket where group_id in (:groups) group by group_id, state").param("groups", groups)
                    .query(row -> {
                        counts.computeIfAbsent(row.getLong("group_id"), group -> new EnumMap<>(TicketState.class))
                                .put(TicketState.valueOf(row.getString("state")), row.getInt("n"));
                    });
        }
        return counts;
    }

    /** Those of some tickets that belong to a group. */
    List<Long> grouped(Collection<Long> tickets) {
        return tickets.isEmpty() ? List.of() : jdbc.sql("select id from ticket where group_id is not null and id in (:tickets)").param("tickets", tickets)
                .query(Long.class).list();
    }

    /** @param group null takes it out of the one it is in */
    void put(long ticket, @Nullable Long group) {
        jdbc.sql("update ticket set group_id = ? where id = ?").params(Arrays.asList(group, ticket)).update();
    }

    private static Group read(ResultSet row, int number) throws SQLException {
        String purpose = row.getString("purpose");
        return new Group(row.getLong("id"), row.getString("name"), purpose == null ? null : Purpose.valueOf(purpose), Columns.instantOrNull(row, "needed_by"));
    }
}
