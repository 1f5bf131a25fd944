package fabbrica.web.account;

import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.DiskUse;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.platform.storage.StorageFault;
import java.io.IOException;
import java.nio.file.Path;
import java.security.Principal;
import org.jspecify.annotations.Nullable;
import org.springframework.core.env.Environment;
import org.springframework.http.CacheControl;
import org.springframework.http.ResponseEntity;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * Asked by a page before it sends a form: whether the server is there and can store it, who is signed in by now, and with which token forms
 * are sent. A page that was open for long, or over a restart, so keeps what was typed and can send it after all.
 */
@RestController
class AliveController {

    /** What a form and its traces in the database take at most, files apart. */
    private static final long A_FORM = 4L << 20;

    private final Path folder;

    AliveController(Environment environment) {
        this.folder = DataFolder.of(environment);
    }

    /**
     * @param who     the name signed in with; empty for nobody
     * @param trouble why a form had better not be sent; empty when nothing speaks against it
     */
    record Alive(String who, String token, String trouble) {
    }

    @GetMapping("/alive")
    ResponseEntity<Alive> alive(@Nullable Principal who, CsrfToken token) throws IOException {
        String trouble = DiskUse.hasRoom(folder, A_FORM) ? "" : new StorageException(StorageFault.FULL, null).sentence();
        return ResponseEntity.ok().cacheControl(CacheControl.noStore()).body(new Alive(who == null ? "" : who.getName(),
                token.getToken(), trouble));
    }
}
