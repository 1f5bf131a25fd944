package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class SharesTest {

    private final Shares shares = new Shares(2, 4);
    private final List<String> begun = new CopyOnWriteArrayList<>();
    private final Semaphore done = new Semaphore(0);
    private final Semaphore any = new Semaphore(0);

    @Test
    void one_who_asks_for_much_works_at_the_usual_places_and_others_do_not_wait_for_it() throws InterruptedException {
        for (int i = 0; i < 150; i++) {
            ask("busy");
        }
        begun(2);
        assertThat(begun).containsExactly("busy", "busy");
        ask("late");
        begun(1);
        ask("later");
        begun(1);
        assertThat(begun).containsExactly("busy", "busy", "late", "later");
        ask("too many");
        assertThat(any.tryAcquire()).as("there are four places in all").isFalse();
        done.release();
        begun(1);
        assertThat(begun).endsWith("too many");
        done.release(200);
    }

    @Test
    void people_take_turns() throws InterruptedException {
        CountDownLatch all = new CountDownLatch(4);
        Shares one = new Shares(1, 1);
        List<String> order = new CopyOnWriteArrayList<>();
        Semaphore start = new Semaphore(0);
        one.work("a", false, () -> start.acquireUninterruptibly());
        for (String person : List.of("a", "a", "b", "c")) {
            one.work(person, false, () -> {
                order.add(person);
                all.countDown();
            });
        }
        start.release();
        assertThat(all.await(1, TimeUnit.MINUTES)).isTrue();
        assertThat(order).containsExactly("b", "c", "a", "a");
    }

    @Test
    void what_somebody_waits_for_goes_before_what_they_might_look_at() throws InterruptedException {
        for (int i = 0; i < 20; i++) {
            ask("table");
        }
        begun(2);
        Shares.Turn hurried = shares.work("table", false, () -> begin("hurried"));
        shares.work("table", true, () -> begin("preview"));
        begun(1);
        assertThat(begun).containsExactly("table", "table", "preview");
        shares.hurry(hurried);
        begun(1);
        assertThat(begun).endsWith("hurried");
        done.release(200);
    }

    private void ask(String person) {
        shares.work(person, false, () -> begin(person));
    }

    private void begin(String what) {
        begun.add(what);
        any.release();
        done.acquireUninterruptibly();
    }

    private void begun(int tasks) throws InterruptedException {
        assertThat(any.tryAcquire(tasks, 1, TimeUnit.MINUTES)).isTrue();
    }
}
