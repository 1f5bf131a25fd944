package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.gcode.FileCourse;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.run.Command;
import fabbrica.core.run.MachineEvent;
import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.Reckoning;
import fabbrica.web.SetClock;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.jspecify.annotations.Nullable;

class HandLinkTest {

    private static final Printer DOOR = BuiltIn.printer("standard").orElseThrow();
    private static final byte[] TWO_LAYERS = "M190 S60\nM109 S210\nG1 X50 Y50 Z0.2 F6000\nG1 X150 E4 F60\nG1 Z0.4 F6000\nG1 X50 E8 F60\n".getBytes(StandardCharsets.US_ASCII);

    private final SetClock clock = new SetClock();
    private final AtomicReference<@Nullable MachineFile> begun = new AtomicReference<>();
    private final List<MachineEvent> said = new CopyOnWriteArrayList<>();
    private final Reckoning reckoning = reckoning();
    private @Nullable HandLink link;

    private static Reckoning reckoning() {
        try {
            return new Reckoning(FileCourse.of(TWO_LAYERS, DOOR), DOOR.preparation());
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    private HandLink link(Optional<Reckoning> known) {
        HandLink made = new HandLink(DOOR.name(), () -> Optional.ofNullable(begun.get()), file -> known, clock, Duration.ofMillis(10), said::add);
        link = made;
        return made;
    }

    @AfterEach
    void close() {
        if (link != null) {
            link.close();
        }
    }

    private MachineFile atIt() {
        return MachineFile.carried(DOOR.id(), 7, "mark").ordered(clock.instant(), "mira");
    }

    private Reported last() {
        return (Reported) said.getLast();
    }

    @Test
    void it_is_there_at_once_and_idle_and_begins_when_somebody_says_so() {
        HandLink hand = link(Optional.empty());
        assertThat(said).hasSize(2).first().isEqualTo(new MachineEvent.Reached("", "", false));
        assertThat(last().doing()).isEqualTo(Doing.NOTHING);
        hand.send(new Command.Start("a.gcode", ""));
        assertThat(said).contains(new MachineEvent.Started("a.gcode"));
        assertThat(last().doing()).isEqualTo(Doing.PRINTING);
        assertThat(last().reckoned()).isTrue();
    }

    @Test
    void how_far_it_is_goes_by_the_clock_and_after_its_end_the_bed_cools() {
        begun.set(atIt());
        link(Optional.of(reckoning));
        double whole = reckoning.course().left(0, 20, 20, DOOR.preparation()).inAllS();
        clock.pass(Duration.ofSeconds(Math.round(whole) - 30));
        Until.true_("it is at its second layer", () -> last().layer() == 2);
        clock.pass(Duration.ofSeconds(60));
        Until.true_("it should be over", () -> last().doing() == Doing.NOTHING && last().warmth().bedC() > 50);
        clock.pass(Duration.ofHours(3));
        Until.true_("it is cold", () -> last().warmth().bedC() < 21);
    }

    @Test
    void what_was_begun_before_a_restart_goes_on_from_when_it_was_begun() {
        begun.set(atIt());
        clock.pass(Duration.ofHours(9));
        link(Optional.of(reckoning));
        assertThat(last().doing()).as("until it is reckoned").isEqualTo(Doing.PRINTING);
        Until.true_("it should have ended long ago", () -> last().doing() == Doing.NOTHING);
    }

    @Test
    void once_it_is_cleared_it_is_idle() {
        begun.set(atIt());
        HandLink hand = link(Optional.of(reckoning));
        Until.true_("it warms up", () -> last().warmth().bedTargetC() > 0);
        begun.set(null);
        hand.send(new Command.Remove("a.gcode"));
        Until.true_("it is idle", () -> last().doing() == Doing.NOTHING && last().warmth().bedC() == 0);
    }

    @Test
    void what_only_a_person_can_do_is_refused() {
        HandLink hand = link(Optional.empty());
        List<Command> all = List.of(new Command.Pause(), new Command.Resume(), new Command.Cancel(), new Command.EmergencyStop(), new Command.Restart());
        all.forEach(hand::send);
        assertThat(said).filteredOn(MachineEvent.Refused.class::isInstance).hasSize(all.size());
    }
}
