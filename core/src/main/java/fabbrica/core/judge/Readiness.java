package fabbrica.core.judge;

import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Findings;
import fabbrica.core.inspect.Severity;
import fabbrica.core.judge.Obstacle.Cause;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.units.Spoken;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Whether a plate may be printed on a machine from a spool for some people at a moment: all that stands in the way, what stops
 * it first. This is the one place that decides it; figures without a source beside them are common practice.
 */
public final class Readiness {

    private static final double SAME_DIAMETER_MM = 0.1;
    private static final double MM3_PER_CM3 = 1000;

    private final Job job;
    private final MachineView machine;
    private final Stock stock;
    private final People people;
    private final Policy policy;
    private final Instant at;
    private final List<Obstacle> obstacles = new ArrayList<>();

    private Readiness(Job job, MachineView machine, Stock stock, People people, Policy policy, Instant at) {
        this.job = job;
        this.machine = machine;
        this.stock = stock;
        this.people = people;
        this.policy = policy;
        this.at = at;
    }

    /** @return what stops it first; empty when it may be printed */
    public static List<Obstacle> of(Job job, MachineView machine, Stock stock, People people, Policy policy, Instant at) {
        Readiness judged = new Readiness(job, machine, stock, people, policy, at);
        judged.judgeMachine();
        if (job.replay() != null) {
            judged.judgeFile(job.replay());
        } else {
            judged.judgeFit();
            judged.judgeNozzle();
            judged.judgeFindings();
        }
        judged.judgeMaterial();
        judged.judgeSpool();
        judged.judgePeople();
        judged.judgeTime();
        judged.obstacles.sort(Comparator.comparing(obstacle -> !obstacle.stops()));
        return List.copyOf(judged.obstacles);
    }

    private void judgeMachine() {
        if (machine.down()) {
            String reason = "%s is %s.".formatted(machine.printer().name(), machine.stands());
            if (people.looked() || machine.until() == null) {
                stops(Cause.MACHINE, reason, "Take another printer, or mark it in order in the Stores.");
            } else {
                care(Cause.MACHINE, reason, "It is expected back, and the plate waits until then; or take another printer.");
            }
        }
        if (!machine.busyWith().isEmpty()) {
            stops(Cause.BUSY, "%s is still busy with %s.".formatted(machine.printer().name(), machine.busyWith()), "Say how that one ended first.");
        }
        for (String task : machine.overdue()) {
            care(Cause.MAINTENANCE, "%s is overdue on %s.".formatted(task, machine.printer().name()), "Do it before the next print, by the maker's manual.");
        }
    }

    /** What a file does that was sliced elsewhere, instead of what a recipe asks for. */
    private void judgeFile(Replay replay) {
        for (Finding finding : SlicedFileFindings.of(replay, machine.printer(), stock.material(), null)) {
            if (finding.severity() != Severity.NOTE) {
                add(finding.severity() == Severity.BLOCK, switch (finding.code()) {
                    case OFF_BED -> Cause.FIT;
                    case WRONG_TEMPERATURE -> Cause.HEAT;
                    case TOO_MUCH_FLOW -> Cause.FLOW;
                    case WRONG_NOZZLE -> Cause.NOZZLE;
                    default -> Cause.FINDING;
                }, finding.message(), finding.advice());
            }
        }
    }

    private void judgeFit() {
        job.layout().troubles().forEach(trouble -> stops(Cause.FIT, trouble.reason(), "Lay it another way, smaller, or on a larger bed."));
        if (job.plate().recipe().lines().spiral() && job.plate().copies().size() > 1 && job.plate().sequence() == Plate.Sequence.TOGETHER) {
            stops(Cause.FIT, "A spiral is one part at a time.", "Print the copies one after another, or one a plate.");
        }
    }

    /** One cause is named, what the machine cannot do before what the lab does not allow. */
    private void judgeMaterial() {
        Printer printer = machine.printer();
        Material material = stock.material();
        if (material.nozzleC() > printer.maxNozzleC()) {
            stops(Cause.HEAT, "%s needs %d °C at the nozzle; %s reaches %d °C.".formatted(material.name(), material.nozzleC(), printer.name(),
                    printer.maxNozzleC()), "Take another material or another printer.");
        } else if (material.bedC() > printer.maxBedC()) {
            stops(Cause.HEAT, "%s needs a bed of %d °C; that of %s reaches %d °C.".formatted(material.name(), material.bedC(), printer.name(),
                    printer.maxBedC()), "Take another material or another printer.");
        } else if (material.enclosed() && !printer.enclosed()) {
            stops(Cause.ENCLOSURE, "%s needs an enclosed printer.".formatted(material.name()), "Take a printer with an enclosure, and ventilate.");
        } else if (material.abrasive() && !printer.nozzle().hardened()) {
            stops(Cause.ABRASION, "%s is abrasive and the nozzle of %s is not hardened.".formatted(material.name(), printer.name()),
                    "Mount a hardened nozzle, or take another printer.");
        } else if (!printer.materialIds().contains(material.id())) {
            stops(Cause.MATERIAL, "%s is not allowed on %s.".formatted(material.name(), printer.name()), "Take another material or another printer.");
        }
    }

    private void judgeNozzle() {
        Recipe recipe = job.plate().recipe();
        Nozzle nozzle = machine.printer().nozzle();
        window("Layer height", recipe.layerHeightMm(), nozzle);
        window("First layer height", recipe.firstLayerHeightMm(), nozzle);
        if (!nozzle.canDraw(recipe.lineWidthMm())) {
            stops(Cause.NOZZLE, "Line width %s mm does not suit the %s mm bore (%s to %s mm).".formatted(Spoken.number(recipe.lineWidthMm(), 2),
                    Spoken.number(nozzle.boreMm(), 2), Spoken.number(nozzle.narrowestLineMm(), 2),
                    Spoken.number(nozzle.widestLineMm(), 2)), "Plan it for the nozzle that is in the printer.");
        }
        double asked = recipe.lineAreaMm2(recipe.layerHeightMm()) * Math.min(recipe.speedMmS(), machine.printer().kinematics().maxSpeedMmS());
        double melts = machine.printer().kinematics().maxFlowMm3S();
        if (asked > melts * 1.001) {
            care(Cause.FLOW, "The recipe asks for %s mm³/s of plastic; %s melts %s mm³/s and lays it slower.".formatted(Spoken.number(asked, 1),
                    machine.printer().name(), Spoken.number(melts, 1)), "");
        }
    }

    private void window(String what, double heightMm, Nozzle nozzle) {
        if (!nozzle.canLay(heightMm)) {
            stops(Cause.NOZZLE, "%s %s mm is outside the %s mm nozzle's window (%s to %s mm).".formatted(what, Spoken.number(heightMm, 2),
                    Spoken.number(nozzle.boreMm(), 2), Spoken.number(nozzle.thinnestLayerMm(), 2), Spoken.number(nozzle.thickestLayerMm(), 2)),
                    "Plan it for the nozzle that is in the printer.");
        }
    }

    private void judgeSpool() {
        Spool spool = stock.spool();
        if (spool == null) {
            return;
        }
        if (stock.retired()) {
            stops(Cause.SPOOL, "That spool is no longer on the shelf.", "Choose another one.");
        }
        Printer printer = machine.printer();
        if (Math.abs(stock.diameterMm() - printer.filamentMm()) > SAME_DIAMETER_MM) {
            stops(Cause.SPOOL, "The filament is %s mm thick; %s takes %s mm.".formatted(Spoken.number(stock.diameterMm(), 2), printer.name(),
                    Spoken.number(printer.filamentMm(), 2)), "Take another spool.");
        }
        if (!stock.feeds().isEmpty()) {
            stops(Cause.SPOOL, "The spool feeds another run: %s.".formatted(stock.feeds()), "Wait for that one, or take another spool.");
        }
        if (job.takes().isPresent()) {
            double needed = job.takes().get().grams(), free = spool.remainingG() - stock.promisedG();
            String left = stock.promisedG() > 0 ? "%s left, %s of it promised to plates that wait".formatted(
                    Spoken.grams(Math.max(0, spool.remainingG())), Spoken.grams(stock.promisedG())) : "%s left".formatted(
                    Spoken.grams(Math.max(0, spool.remainingG())));
            double wanting = needed + policy.reserveG() - free;
            if (wanting > 0) {
                String stays = policy.reserveG() > 0 ? ", and %s stay on it".formatted(Spoken.grams(policy.reserveG())) : "";
                stops(Cause.GRAMS, "%s g short: %s, %s needed%s.".formatted(Spoken.number(Math.ceil(wanting), 0), left, Spoken.grams(needed), stays),
                        "Take a fuller spool, or print fewer copies.");
            }
        }
    }

    /** A part that is on the plate several times is judged once. */
    private void judgeFindings() {
        Recipe recipe = job.plate().recipe();
        for (Job.Item item : job.items()) {
            for (Finding finding : Findings.of(item.inspection(), machine.limits())) {
                if (finding.severity() == Severity.BLOCK) {
                    stops(Cause.FINDING, "%s has a finding that stops the print: %s".formatted(item.name(), finding.message()), finding.advice());
                }
            }
            SupportAdvice supports = SupportAdvice.of(item.inspection(), machine.limits());
            if (supports.wanted() && !recipe.propped()) {
                care(Cause.SUPPORT, "%s needs supports as it lies: %s".formatted(item.name(), supports.reason()), "Turn it first, or let supports be printed.");
            }
            AdhesionAdvice hold = AdhesionAdvice.of(item.inspection().stand(), machine.raftAlways());
            if (hold.exceeds(recipe.adhesion())) {
                care(Cause.ADHESION, "%s needs a %s: %s".formatted(item.name(), hold.adhesion().label(), hold.reason()),
                        "Choose a %s, or turn it onto a larger face.".formatted(hold.adhesion().label()));
            }
        }
    }

    private void judgePeople() {
        for (People.Person member : people.members()) {
            if (machine.usedBy() == UsedBy.STAFF) {
                care(Cause.BADGE, "%s prints for the lab's own people.".formatted(machine.printer().name()), "Take another printer, or ask.");
            } else if (machine.usedBy() == UsedBy.TRAINED && !member.trained()) {
                add(policy.badgesRequired(), Cause.BADGE, "%s has no badge for %s.".formatted(member.name(), machine.printer().name()),
                        "Somebody trained has to run it.");
            }
            if (member.minor() && !member.answeredFor()) {
                add(policy.grownUpsRequired(), Cause.MINOR, "%s is a minor and no grown-up is named who answers for them.".formatted(member.name()),
                        "Name one among the members.");
            }
            job.takes().ifPresent(takes -> judgeFairUse(member, takes));
        }
    }

    private void judgeFairUse(People.Person member, Takes takes) {
        double grams = member.usedG() + member.portion() * takes.grams();
        double hours = member.usedHours() + member.portion() * takes.seconds() / 3600;
        if (policy.fairGrams() > 0 && grams > policy.fairGrams()) {
            add(policy.fairUseStops(), Cause.FAIR_USE, "%s would have had %s this month; fair use is %s.".formatted(member.name(),
                    Spoken.grams(grams), Spoken.grams(policy.fairGrams())), "Scale it down, split it over months, or ask.");
        }
        if (policy.fairHours() > 0 && hours > policy.fairHours()) {
            add(policy.fairUseStops(), Cause.FAIR_USE, "%s would have had %s of machines this month; fair use is %s.".formatted(member.name(),
                    Spoken.duration(hours * 3600), Spoken.duration(policy.fairHours() * 3600)), "Print it coarser, split it over months, or ask.");
        }
    }

    private void judgeTime() {
        job.takes().ifPresent(takes -> {
            judgeTrinkets(takes);
            if (people.looked()) {
                judgeUnattended(at.plus(Duration.ofSeconds(Math.round(takes.seconds()))));
            }
        });
    }

    private void judgeTrinkets(Takes takes) {
        double volume = job.items().stream().mapToDouble(item -> item.inspection().measures().volumeMm3()).sum() / MM3_PER_CM3;
        if (!job.items().isEmpty() && policy.trinketMinutes() > 0 && takes.seconds() > 60 * policy.trinketMinutes() && volume < policy.trinketCm3()
                && job.items().stream().allMatch(Job.Item::forLooks) && job.plate().copies().size() == 1) {
            care(Cause.TRINKET, "%s of a machine for a trinket of %s cm³.".formatted(Spoken.duration(takes.seconds()),
                    Spoken.number(volume, 1)), "Ask whether it is worth it, or print it with others.");
        }
    }

    private void judgeUnattended(Instant end) {
        if (people.staffedUntil() == null) {
            care(Cause.UNATTENDED, "Nobody is there: the lab is closed.", "House rules for unattended printing and local code come first.");
        } else if (end.isAfter(people.staffedUntil())) {
            add(!(policy.unattended() && machine.unattended()), Cause.UNATTENDED, machine.unattended() && policy.unattended()
                    ? "It runs on after the lab has closed." : policy.unattended() ? "It would run on after the lab has closed, and %s may not."
                    .formatted(machine.printer().name()) : "It would run on after the lab has closed, and nothing may.",
                    "Start it when the lab opens, or print it quicker.");
        }
    }

    private void stops(Cause cause, String reason, String remedy) {
        obstacles.add(new Obstacle.Stops(cause, reason, remedy));
    }

    private void care(Cause cause, String reason, String remedy) {
        obstacles.add(new Obstacle.WantsCare(cause, reason, remedy));
    }

    private void add(boolean stops, Cause cause, String reason, String remedy) {
        obstacles.add(stops ? new Obstacle.Stops(cause, reason, remedy) : new Obstacle.WantsCare(cause, reason, remedy));
    }
}
