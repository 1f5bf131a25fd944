package fabbrica.web.notice;

import fabbrica.web.platform.events.Outbox;
import fabbrica.web.platform.events.Outbox.Told;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** What members were told, for whoever is asked about it. */
@Controller
class NoticeController {

    private static final int MOST = 100;

    private final Outbox outbox;
    private final Notices notices;

    NoticeController(Outbox outbox, Notices notices) {
        this.outbox = outbox;
        this.notices = notices;
    }

    /** @param way how it was told, or that it waits */
    record Line(Instant at, Notice notice, String way) {
    }

    @GetMapping("/notices")
    String notices(Model page) {
        List<Told> told = outbox.latest(MOST);
        Map<Long, Notice> sentences = notices.of(told.stream().map(Told::event).toList());
        page.addAttribute("page", told.stream().filter(each -> sentences.containsKey(each.event().id())).map(each -> new Line(each.event().at(),
                Objects.requireNonNull(sentences.get(each.event().id())), each.way() != null ? each.way().label()
                : each.tries() == 0 ? "about to go out" : "the mail was tried %d times and is tried again".formatted(each.tries()))).toList());
        return "notice/notices";
    }
}
