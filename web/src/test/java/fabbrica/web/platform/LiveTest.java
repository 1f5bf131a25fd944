package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.web.servlet.mvc.method.annotation.ResponseBodyEmitter.DataWithMediaType;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

class LiveTest {

    private final AtomicInteger answering = new AtomicInteger();
    private final Live live = new Live(answering::get, 4);

    /** A page that notes what it is told. */
    private static final class Page extends SseEmitter {

        private final List<String> told = new ArrayList<>();
        private boolean gone;

        @Override
        public void send(SseEventBuilder event) throws IOException {
            if (gone) {
                throw new IOException("the browser has gone");
            }
            String text = event.build().stream().map(DataWithMediaType::getData).map(String::valueOf).collect(Collectors.joining());
            told.add(text.substring(text.indexOf(':') + 1, text.indexOf('\n')));
        }

        private long times(String event) {
            return told.stream().filter(event::equals).count();
        }
    }

    private List<Page> pages(int count) {
        return IntStream.range(0, count).mapToObj(i -> {
            Page page = new Page();
            live.open(page);
            assertThat(page.told).containsExactly("worked", "machine", "alarm");
            page.told.clear();
            return page;
        }).toList();
    }

    private static long told(List<Page> pages, String event) {
        return pages.stream().filter(page -> page.times(event) > 0).count();
    }

    @Test
    void few_pages_are_told_at_once() {
        List<Page> few = pages(4);
        live.timePasses();
        live.tick();
        assertThat(told(few, "floor")).isEqualTo(4);
    }

    @Test
    void many_pages_take_turns_each_is_told_and_none_twice_before_all_were() {
        List<Page> many = pages(100);
        live.machineMoves();
        for (int tick = 1; tick <= 40; tick++) {
            live.timePasses();
            live.tick();
            assertThat(told(many, "floor")).isLessThanOrEqualTo(4L * tick);
        }
        assertThat(told(many, "floor")).isEqualTo(100);
        assertThat(told(many, "machine")).isEqualTo(100);
        assertThat(many).allMatch(page -> page.times("floor") <= 2 && page.times("machine") == 1);
    }

    @Test
    void few_are_told_of_the_floor_while_the_server_has_its_hands_full() {
        List<Page> pages = pages(10);
        answering.set(2);
        live.timePasses();
        live.tick();
        assertThat(told(pages, "floor")).isEqualTo(2);
        answering.set(9);
        live.tick();
        assertThat(told(pages, "floor")).isEqualTo(3);
        answering.set(0);
        live.tick();
        assertThat(told(pages, "floor")).isEqualTo(7);
    }

    @Test
    void of_an_alarm_two_hundred_pages_are_told_within_a_second_whatever_is_asked_for() {
        List<Page> many = pages(200);
        answering.set(50);
        live.timePasses();
        live.alarm();
        for (int tick = 0; tick < 10; tick++) {
            live.tick();
        }
        assertThat(many).allMatch(page -> page.times("alarm") == 1);
        assertThat(told(many, "floor")).isEqualTo(10);
    }

    @Test
    void whoever_has_gone_takes_no_turn_again() {
        List<Page> many = pages(10);
        many.subList(0, 4).forEach(page -> page.gone = true);
        live.timePasses();
        live.tick();
        live.tick();
        live.tick();
        assertThat(told(many, "floor")).isEqualTo(6);
        live.timePasses();
        live.tick();
        live.tick();
        assertThat(many.subList(4, 10)).allMatch(page -> page.times("floor") == 2);
    }
}
