package fabbrica.web.notice;

import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Outbox;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Lazy;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Empties the outbox: by mail where there is an address and a post; all of it stands on the member's page anyway. */
@Component
@Lazy(false)
class Delivery {

    private static final Logger LOG = LoggerFactory.getLogger(Delivery.class);
    private static final int AT_ONCE = 20;

    private final Outbox outbox;
    private final Notices notices;
    private final Optional<Channel> channel;

    Delivery(Outbox outbox, Notices notices, Optional<Channel> channel) {
        this.outbox = outbox;
        this.notices = notices;
        this.channel = channel;
    }

    @Scheduled(initialDelayString = "${fabbrica.mail.every}", fixedDelayString = "${fabbrica.mail.every}")
    void deliver() {
        List<Event> due = outbox.due(AT_ONCE);
        Map<Long, Notice> told = due.isEmpty() ? Map.of() : notices.of(due);
        for (Event event : due) {
            Notice notice = told.get(event.id());
            if (notice == null || notice.addresses().isEmpty() || channel.isEmpty()) {
                outbox.delivered(event, Outbox.Way.PAGE);
            } else {
                mail(event, notice, channel.get());
            }
        }
    }

    private void mail(Event event, Notice notice, Channel post) {
        try {
            post.deliver(notice);
            outbox.delivered(event, Outbox.Way.MAIL);
        } catch (Refusal refusal) {
            LOG.warn("Ticket {}: {}", notice.ticketId(), refusal.getMessage());
            outbox.failed(event);
        }
    }
}
