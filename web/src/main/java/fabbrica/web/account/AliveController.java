package fabbrica.web.account;

import java.security.Principal;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.ResponseEntity;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * Asked by a page before it sends a form: whether the server is there, who is signed in by now, and with which token forms
 * are sent. A page that was open for long, or over a restart, so keeps what was typed and can send it after all.
 */
@RestController
class AliveController {

    /** @param who the name signed in with; empty for nobody */
    record Alive(String who, String token) {
    }

    @GetMapping("/alive")
    ResponseEntity<Alive> alive(@Nullable Principal who, CsrfToken token) {
        return ResponseEntity.ok().cacheControl(CacheControl.noStore()).body(new Alive(who == null ? "" : who.getName(), token.getToken()));
    }
}
