package fabbrica.web.platform.storage;

import com.zaxxer.hikari.SQLExceptionOverride;
import java.sql.SQLException;

/** Tells the pool which faults end a connection; named in the application's properties. */
public final class SpoiltConnections implements SQLExceptionOverride {

    @java.lang.Override
    public Override adjudicate(SQLException exception) {
        return StorageFault.of(exception).spoilsConnection() ? Override.MUST_EVICT : Override.CONTINUE_EVICT;
    }
}
