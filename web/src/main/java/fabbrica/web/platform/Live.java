package fabbrica.web.platform;

import java.io.IOException;
import java.time.Duration;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.IntSupplier;
import org.springframework.beans.factory.annotation.Autowired;
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
 * trouble, or no longer. Whoever is told asks at once: where many pages are open they are told in turns, as fast as the server answers them.
 */
@Component
@Lazy(false)
public class Live {

    private static final long TICK_MS = 100;
    /** What is worked out, and what machines say, goes by all the time. */
    private static final int TICKS_A_WORK = 4, TICKS_A_MACHINE = 8;
    /** Of trouble all are told within a second or so, whatever else is asked for: so many pages a tick are 240 a second. */
    private static final int ALARMS_A_TICK = 24;
    /** Browsers connect again; whoever may no longer listen is told so then. */
    private static final Duration LONGEST = Duration.ofMinutes(5);

    private final Set<SseEmitter> streams = ConcurrentHashMap.newKeySet();
    private final AtomicBoolean floorMoved = new AtomicBoolean();
    private final AtomicBoolean machineMoved = new AtomicBoolean();
    private final AtomicBoolean alarmed = new AtomicBoolean();
    /** Whose turn is still to come, the longest wait first; looked at by the tick alone. */
    private final Set<SseEmitter> toldOfAlarm = new LinkedHashSet<>(), toldOfFloor = new LinkedHashSet<>(), toldOfMachines = new LinkedHashSet<>();
    private final IntSupplier underWay;
    private final int atOnce;
    private int ticks;
    private volatile boolean closed;

    @Autowired
    Live(Answering answering) {
        this(answering::underWay, Math.max(2, Runtime.getRuntime().availableProcessors()));
    }

    /**
     * @param underWay how many answers are
     * @param atOnce   while so many are, only one page a tick is told of the floor
     */
    Live(IntSupplier underWay, int atOnce) {
        this.underWay = underWay;
        this.atOnce = atOnce;
    }

    SseEmitter open() {
        return open(new SseEmitter(closed ? 1 : LONGEST.toMillis()));
    }

    SseEmitter open(SseEmitter stream) {
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
        ticks++;
        if (alarmed.getAndSet(false)) {
            toldOfAlarm.addAll(streams);
        }
        if (floorMoved.getAndSet(false)) {
            toldOfFloor.addAll(streams);
        }
        if (ticks % TICKS_A_MACHINE == 0 && machineMoved.getAndSet(false)) {
            toldOfMachines.addAll(streams);
        }
        tell(toldOfAlarm, "alarm", ALARMS_A_TICK);
        tell(toldOfFloor, "floor", Math.max(1, atOnce - underWay.getAsInt()));
        tell(toldOfMachines, "machine", Math.max(1, atOnce - underWay.getAsInt()));
        if (ticks % TICKS_A_WORK == 0 && !streams.isEmpty() && Works.busyLately()) {
            streams.forEach(stream -> send(stream, "worked"));
        }
    }

    private void tell(Set<SseEmitter> waiting, String name, int most) {
        waiting.retainAll(streams);
        List<SseEmitter> next = waiting.stream().limit(most).toList();
        next.forEach(stream -> send(stream, name));
        next.forEach(waiting::remove);
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
