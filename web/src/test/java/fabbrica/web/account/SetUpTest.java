package fabbrica.web.account;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import fabbrica.web.FabbricaApplication;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import java.nio.file.Path;
import java.util.Currency;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.security.core.userdetails.UsernameNotFoundException;

/** The first visit to a lab of its own. */
class SetUpTest {

    @Test
    void of_eight_who_set_up_at_once_one_becomes_the_coordinator(@TempDir Path folder) throws Exception {
        try (ConfigurableApplicationContext lab = start(folder); ExecutorService hands = Executors.newFixedThreadPool(8)) {
            FirstVisit firstVisit = lab.getBean(FirstVisit.class);
            List<Future<Boolean>> visits = hands.invokeAll(IntStream.range(0, 8).<Callable<Boolean>>mapToObj(
                    i -> () -> setsUp(firstVisit, "first" + i)).toList());
            long coordinators = 0;
            for (int i = 0; i < 8; i++) {
                boolean told = visits.get(i).get();
                assertThat(exists(lab.getBean(Accounts.class), "first" + i)).isEqualTo(told);
                coordinators += told ? 1 : 0;
            }
            assertThat(coordinators).isEqualTo(1);
            assertThat(lab.getBean(Inventory.class).lab().name()).startsWith("Lab of first");
        }
    }

    @Test
    void a_set_up_that_cannot_be_finished_leaves_nothing(@TempDir Path folder) {
        try (ConfigurableApplicationContext lab = start(folder)) {
            FirstVisit firstVisit = lab.getBean(FirstVisit.class);
            Lab impossible = new Lab("Lab", Currency.getInstance("EUR"), null, 0);
            assertThat(catchThrowable(() -> firstVisit.setUp("ana", "long enough for ana", "Ana", impossible))).isNotNull();
            assertThat(firstVisit.pending()).isTrue();
            assertThat(setsUp(firstVisit, "ana")).isTrue();
        }
    }

    private static ConfigurableApplicationContext start(Path folder) {
        return FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + folder);
    }

    private static boolean setsUp(FirstVisit firstVisit, String username) {
        try {
            firstVisit.setUp(username, "long enough for " + username, username, new Lab("Lab of " + username,
                    Currency.getInstance("EUR"), null, 200));
            return true;
        } catch (Refusal refused) {
            return false;
        }
    }

    private static boolean exists(Accounts accounts, String username) {
        try {
            return accounts.loadUserByUsername(username) != null;
        } catch (UsernameNotFoundException e) {
            return false;
        }
    }
}
