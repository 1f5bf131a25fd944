package fabbrica.web.platform;

import java.io.IOException;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Tells open pages that something went on, by server-sent events; what waits for it on a page asks again. Events carry a name and
 * nothing else, so that nobody learns by them what they may not see: "worked" while anything is worked out and a moment after,
 * "floor" when something happened to a plate, a run or a printer, and as time passes; "machine" when a machine said something, "alarm" when one is in
 * trouble, or no longer.
 */
@Component
@Lazy(false)
public class Live {

    private static final long TICK_MS = 400;
    /** What machines say goes by as they print. */
    private static final int TICKS_A_MACHINE = 2;
    /** Browsers connect again; whoever may no longer listen is told so then. */
    private static final Duration LONGEST = Duration.ofMinutes(5);

    private final Set<SseEmitter> streams = ConcurrentHashMap.newKeySet();
    private final AtomicBoolean floorMoved = new AtomicBoolean();
    private final AtomicBoolean machineMoved = new AtomicBoolean();
    private final AtomicBoolean alarmed = new AtomicBoolean();
    private int ticks;
    private volatile boolean closed;

    SseEmitter open() {
        SseEmitter stream = new SseEmitter(closed ? 1 : LONGEST.toMillis());
        stream.onCompletion(() -> streams.remove(stream));
        stream.onTimeout(stream::complete);
        streams.add(stream);
        send(stream, "worked");
        send(stream, "machine");
        send(stream, "alarm");
        return stream;
    }

    /** The floor is no longer what it was once the transaction that is open has been kept. */
    public void floorMoves() {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                floorMoved.set(true);
            }
        });
    }

    /** A machine is no longer how it was. */
    public void machineMoves() {
        machineMoved.set(true);
    }

    /** Some machine is in trouble, or no longer. */
    public void alarm() {
        alarmed.set(true);
    }

    @Scheduled(fixedRate = TICK_MS)
    void tick() {
        if (alarmed.getAndSet(false)) {
            streams.forEach(stream -> send(stream, "alarm"));
        }
        if (++ticks % TICKS_A_MACHINE == 0 && machineMoved.getAndSet(false)) {
            streams.forEach(stream -> send(stream, "machine"));
        }
        if (!streams.isEmpty() && Works.busyLately()) {
            streams.forEach(stream -> send(stream, "worked"));
        }
        if (floorMoved.getAndSet(false)) {
            streams.forEach(stream -> send(stream, "floor"));
        }
    }

    @Scheduled(fixedRateString = "${fabbrica.live.minute:1m}")
    void timePasses() {
        floorMoved.set(true);
    }

    /** Streams would hold up the end of the server. */
    @EventListener(ContextClosedEvent.class)
    void close() {
        closed = true;
        streams.forEach(SseEmitter::complete);
    }

    private void send(SseEmitter stream, String name) {
        try {
            stream.send(SseEmitter.event().name(name).data(""));
        } catch (IOException | IllegalStateException goneAway) {
            streams.remove(stream);
        }
    }
}
