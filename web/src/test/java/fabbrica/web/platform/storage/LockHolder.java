package fabbrica.web.platform.storage;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.concurrent.TimeUnit;

/** Another program that holds the write lock of a database for some seconds: run as a process of its own. */
final class LockHolder {

    private LockHolder() {
    }

    /** @param arguments the database and the seconds */
    public static void main(String[] arguments) throws Exception {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + arguments[0] + "?busy_timeout=60000");
                Statement statement = connection.createStatement()) {
            statement.execute("begin immediate");
            System.out.println("held");
            TimeUnit.SECONDS.sleep(Long.parseLong(arguments[1]));
            statement.execute("rollback");
        }
    }
}
