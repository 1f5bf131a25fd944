package fabbrica.web.platform.storage;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL that knows which files the lab names: every column whose name ends in {@code sha256} holds names of files. */
@Repository
public class FileReferenceRepository {

    private final JdbcClient jdbc;
    private final List<String> queries;

    public FileReferenceRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
        this.queries = jdbc.sql("""
                select 'select "' || c.name || '" as name from "' || t.name || '"' from sqlite_schema t join pragma_table_info(t.name) c
                where t.type = 'table' and c.name like '%sha256' order by t.name, c.name""").query(String.class).list();
    }

    boolean names(String sha256) {
        return jdbc.sql(queries.stream().map(query -> "exists (select 1 from (" + query + ") where name = :file)")
                .collect(Collectors.joining(" or ", "select ", ""))).param("file", sha256).query(Boolean.class).single();
    }

    /** The hash of every file that is named. */
    public Set<String> all() {
        return jdbc.sql(queries.stream().map(query -> "select name from (" + query + ") where name is not null")
                .collect(Collectors.joining(" union "))).query(String.class).set();
    }
}
