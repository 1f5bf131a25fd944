package fabbrica.web.machine;

import fabbrica.core.run.Command;
import fabbrica.core.run.MachineEvent;
import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.Reckoning;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * By hand: somebody carries the file to the printer on a card or stick, presses start there and says so. From then on how it stands is reckoned by the
 * clock, and only a person knows how it ended.
 */
final class HandLink implements MachineLink {

    private static final Reported IDLE = new Reported(new Warmth(0, 0, 0, 0), Doing.NOTHING, "", 0, 0, 0, 0, null, true);

    private final Supplier<Optional<MachineFile>> begun;
    private final Function<MachineFile, Optional<Reckoning>> reckonings;
    private final Clock clock;
    private final Duration every;
    private final Consumer<MachineEvent> events;
    private final Thread thread;

    /**
     * @param begun      what somebody has begun there; kept by whoever watches, beyond a restart
     * @param reckonings of a file, worked out once and kept; the first time that may take a while
     * @param every      how often it is reckoned
     */
    HandLink(String printer, Supplier<Optional<MachineFile>> begun, Function<MachineFile, Optional<Reckoning>> reckonings, Clock clock, Duration every, Consumer<MachineEvent> events) {
        this.begun = begun;
        this.reckonings = reckonings;
        this.clock = clock;
        this.every = every;
        this.events = events;
        events.accept(new MachineEvent.Reached("", "", false));
        events.accept(begun.get().map(at -> underWay(at.file())).orElse(IDLE));
        this.thread = Thread.ofVirtual().name("by hand at " + printer).start(this::run);
    }

    @Override
    public void send(Command command) {
        switch (command) {
            case Command.Start(String file, String sha256) -> {
                events.accept(new MachineEvent.Started(file));
                events.accept(underWay(file));
            }
            case Command.Remove remove -> events.accept(IDLE);
            default -> events.accept(new MachineEvent.Refused(command, "somebody has to do that at the printer itself"));
        }
    }

    private void run() {
        Reported last = null;
        try {
            while (true) {
                Thread.sleep(every);
                Reported now = report(begun.get().orElse(null));
                if (!Objects.equals(now, last)) {
                    events.accept(now);
                    last = now;
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private Reported report(@Nullable MachineFile at) {
        Instant since = at == null ? null : at.orderedAt();
        if (at == null || since == null) {
            return IDLE;
        }
        return reckonings.apply(at).map(reckoning -> reckoning.after(at.file(), Duration.between(since, clock.instant()).toMillis() / 1000.0)).orElse(underWay(at.file()));
    }

    /** As long as nobody has worked out what it takes. */
    private static Reported underWay(String file) {
        return new Reported(new Warmth(0, 0, 0, 0), Doing.PRINTING, file, 0, 0, 0, 0, null, true);
    }

    @Override
    public void close() {
        thread.interrupt();
    }
}
