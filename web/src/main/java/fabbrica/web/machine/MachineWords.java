package fabbrica.web.machine;

import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.MachineState.Kind;
import fabbrica.core.units.Spoken;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** How a machine stands, in words: what is only reckoned is said to be so. Used in templates as {@code @machineWords}. */
@Component("machineWords")
class MachineWords {

    /** Behind its state: where it is, or how long its bed still cools. */
    public String course(Watched machine) {
        String clock = machine.reckoned() ? ", by the clock" : "";
        if (machine.isAtWork()) {
            return machine.layer() == 0 ? clock : "%s%s layer %d of %d".formatted(clock, machine.reckoned() ? " about" : ",", machine.layer(), machine.layers());
        }
        if (machine.isCooling()) {
            return ": the bed %s at %s °C; lift it off at %s °C, in about %s".formatted(machine.reckoned() ? "should by now be" : "is", degrees(machine.warmth().bedC()),
                    degrees(machine.coldAtC()), Spoken.duration(machine.coldIn()));
        }
        return machine.kind() == Kind.TO_BE_CLEARED ? clock : "";
    }

    public String trouble(Watched machine) {
        return "■ It %s%s. %s".formatted(Objects.requireNonNull(machine.trouble()).label(), machine.said().isEmpty() ? "" : " (%s)".formatted(machine.said()), machine.trouble().first());
    }

    public String warmth(Watched machine) {
        Warmth warmth = machine.warmth();
        return "Nozzle %s, bed %s".formatted(of(warmth.nozzleC(), warmth.nozzleTargetC()), of(warmth.bedC(), warmth.bedTargetC()));
    }

    private static String of(double is, double target) {
        return degrees(is) + " °C" + (target > 0 ? " of " + degrees(target) : "");
    }

    private static String degrees(double celsius) {
        return Spoken.number(celsius, 0);
    }
}
