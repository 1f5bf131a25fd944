package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.units.Progress;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BiFunction;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class WorksTest {

    private final AtomicInteger begun = new AtomicInteger();
    private BiFunction<String, Progress, Integer> work = (word, progress) -> word.length();
    private final Works<String, Integer> works = new Works<>(Caches.of(10).build(), "It could not be counted.",
            (word, progress) -> {
                begun.incrementAndGet();
                return work.apply(word, progress);
            });

    @AfterEach
    void close() {
        works.close();
    }

    @Test
    void what_is_soon_done_needs_no_second_question() {
        assertThat(works.askPatiently("four")).isEqualTo(new Standing.Done<>(4));
        assertThat(works.ask("four")).isEqualTo(new Standing.Done<>(4));
        assertThat(works.await("four")).isEqualTo(4);
        assertThat(works.known("four")).contains(4);
        assertThat(begun).hasValue(1);
    }

    @Test
    void what_takes_long_says_how_far_it_is_and_nobody_begins_it_twice() throws InterruptedException {
        CountDownLatch half = new CountDownLatch(1), go = new CountDownLatch(1);
        work = (word, progress) -> {
            progress.reached(0.5);
            half.countDown();
            wait(go);
            return 1;
        };
        long job = ((Standing.Working<Integer>) works.ask("slow")).job();
        half.await();
        assertThat(works.askPatiently("slow")).isEqualTo(new Standing.Working<Integer>(job, 0.5));
        assertThat(works.known("slow")).isEmpty();
        go.countDown();
        assertThat(works.askPatiently("slow")).isEqualTo(new Standing.Done<>(1));
        assertThat(begun).hasValue(1);
    }

    @Test
    void what_fails_is_told_once_and_may_be_asked_for_again() {
        work = (word, progress) -> {
            throw new IllegalStateException("disk gone");
        };
        assertThat(works.askPatiently("broken")).isEqualTo(new Standing.Failed<Integer>("It could not be counted."));
        work = (word, progress) -> {
            throw new Refusal("It is empty.");
        };
        assertThat(works.askPatiently("broken")).isEqualTo(new Standing.Failed<Integer>("It is empty."));
        work = (word, progress) -> 7;
        assertThat(works.askPatiently("broken")).isEqualTo(new Standing.Done<>(7));
    }

    @Test
    void what_is_stopped_leaves_nothing_behind() throws InterruptedException {
        CountDownLatch reached = new CountDownLatch(1), go = new CountDownLatch(1);
        work = (word, progress) -> {
            reached.countDown();
            wait(go);
            progress.check();
            return 1;
        };
        works.ask("long");
        reached.await();
        works.stop("long");
        go.countDown();
        work = (word, progress) -> 2;
        works.askPatiently("long");
        assertThat(works.askPatiently("long")).as("begun anew").isEqualTo(new Standing.Done<>(2));
    }

    @Test
    void what_a_page_shows_no_more_is_dropped_unless_another_still_shows_it() throws InterruptedException {
        CountDownLatch reached = new CountDownLatch(1), go = new CountDownLatch(1);
        work = (word, progress) -> {
            reached.countDown();
            wait(go);
            progress.check();
            return 1;
        };
        works.ask("first", "a preview");
        works.ask("first", "another preview");
        reached.await();
        works.ask("second", "a preview");
        go.countDown();
        assertThat(works.askPatiently("first")).isEqualTo(new Standing.Done<>(1));
        CountDownLatch again = new CountDownLatch(1), stop = new CountDownLatch(1);
        work = (word, progress) -> {
            again.countDown();
            wait(stop);
            progress.check();
            return 3;
        };
        works.ask("third", "a preview");
        again.await();
        works.ask("fourth", "a preview");
        stop.countDown();
        works.askPatiently("fourth");
        assertThat(works.known("third")).isEmpty();
    }

    private static void wait(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }
}
