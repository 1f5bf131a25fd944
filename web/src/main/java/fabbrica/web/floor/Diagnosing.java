package fabbrica.web.floor;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Slopes;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Part;
import fabbrica.core.run.Circumstances;
import fabbrica.core.run.Circumstances.History;
import fabbrica.core.run.Circumstances.LaidLayer;
import fabbrica.core.run.Circumstances.Shape;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Diagnosis;
import fabbrica.core.run.Remedy;
import fabbrica.core.run.Sign;
import fabbrica.core.schedule.Task;
import fabbrica.web.machine.MachineBook;
import fabbrica.web.machine.MachineFile;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.PlanEntry;
import fabbrica.web.plan.PlateLayers;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.MaintenanceTask;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Why runs went wrong, and what to change for the next try. */
@Service
class Diagnosing {

    /** So many runs before it are looked at for the same signs. */
    private static final int LATELY = 10;

    private final Runs runs;
    private final RetryRepository retries;
    private final Plates plates;
    private final PlateLayers layers;
    private final Inventory inventory;
    private final Maintenance maintenance;
    private final Spools spools;
    private final Inspections inspections;
    private final Meshes meshes;
    private final SlicedParts sliced;
    private final MachineBook machines;

    Diagnosing(Runs runs, RetryRepository retries, Plates plates, PlateLayers layers, Inventory inventory, Maintenance maintenance, Spools spools, Inspections inspections, Meshes meshes,
               SlicedParts sliced, MachineBook machines) {
        this.runs = runs;
        this.retries = retries;
        this.plates = plates;
        this.layers = layers;
        this.inventory = inventory;
        this.maintenance = maintenance;
        this.spools = spools;
        this.inspections = inspections;
        this.meshes = meshes;
        this.sliced = sliced;
        this.machines = machines;
    }

    /**
     * What is thought of a run that went wrong.
     *
     * @param other   the spool to take, where that is the change; null where it is not, or there is none
     * @param ticket  whose part is to be changed, where that is it
     * @param looking whether its layers are still being laid; with them more may be known
     */
    record Thought(Run run, Diagnosis diagnosis, @Nullable StockSpool other, long ticket, boolean looking) {

        public boolean takesOther() {
            return other != null && next(Remedy.Kind.SPOOL);
        }

        /** Whether another spool is to be taken and there is none. */
        public boolean lacksOther() {
            return other == null && next(Remedy.Kind.SPOOL);
        }

        /** Whether that is done on its ticket, and not on the plate. */
        public boolean changesPart() {
            return next(Remedy.Kind.PART);
        }

        private boolean next(Remedy.Kind kind) {
            return diagnosis.next().filter(retry -> retry.remedy().kind() == kind).isPresent();
        }
    }

    Thought of(Run run, List<Tried> tries) {
        LaidPlate plate = plates.plate(run.plateId());
        StockSpool spool = spools.spool(run.spoolId()).orElseThrow();
        Material material = inventory.material(spool.spool().materialId()).orElseThrow();
        LaidCopy failed = failed(run, plate);
        Standing<List<LaidLayer>> laid = meshes.isKept(plate.plate()) ? layers.ask(plate, material) : new Standing.Done<>(List.of());
        Circumstances circumstances = circumstances(run, plate, failed.copy().part(), material, spool, laid instanceof Standing.Done<List<LaidLayer>>(List<LaidLayer> known) ? known : List.of(),
                tries);
        Diagnosis diagnosis = Diagnosis.of(run.signs(), circumstances);
        return new Thought(run, diagnosis, other(spool, run).orElse(null), failed.ticketId(), laid instanceof Standing.Working);
    }

    /** All tries at what a run printed, the first one first. */
    List<Tried> tries(long runId) {
        Map<Long, @Nullable Remedy> chain = retries.chain(runId);
        return runs.runs(chain.keySet()).stream().map(run -> new Tried(run, chain.get(run.id()))).sorted(Comparator.comparing(tried -> tried.run().id())).toList();
    }

    Optional<Long> waiting(long runId) {
        return retries.waiting(runId);
    }

    /**
     * Lays what failed on a plate anew with one thing changed, and puts it into the queue.
     *
     * @throws Refusal when that is not what is proposed any more, or it cannot be printed so
     */
    long retry(Run run, Remedy remedy, String who) {
        Thought thought = of(run, tries(run.id()));
        Diagnosis.Retry next = thought.diagnosis().next().filter(retry -> retry.remedy() == remedy)
                .orElseThrow(() -> new Refusal("More is known by now, and something else is proposed. Look at it again."));
        PlanEntry entry = plates.plate(run.plateId()).plan().entry();
        PlanEntry changed = switch (remedy.kind()) {
            case BY_HAND -> entry;
            case RECIPE -> entry.with(next.recipe(), entry.printerId());
            case SPOOL -> entry.from(Optional.ofNullable(thought.other()).orElseThrow(() -> new Refusal("There is no other spool of this material on the shelf.")).id());
            case PART -> throw new Refusal("The part itself is to be changed: that is done on its ticket.");
        };
        return runs.again(run, changed, plate -> retries.insert(plate, run.id(), remedy), who);
    }

    private LaidCopy failed(Run run, LaidPlate plate) {
        Set<Long> bad = runs.copies(List.of(run.id())).stream().filter(copy -> !copy.outcome().isGood()).map(RunCopy::copyId).collect(Collectors.toSet());
        return plate.copies().stream().filter(copy -> bad.contains(copy.id())).findFirst().orElseGet(() -> plate.copies().getFirst());
    }

    private Circumstances circumstances(Run run, LaidPlate plate, Part part, Material material, StockSpool spool, List<LaidLayer> laid, List<Tried> tries) {
        StockPrinter printer = inventory.printer(run.printerId()).orElseThrow();
        EnumSet<Remedy> tried = EnumSet.noneOf(Remedy.class);
        tries.stream().filter(each -> each.run().id() <= run.id()).map(Tried::changed).filter(Objects::nonNull).forEach(tried::add);
        return new Circumstances(shape(part, printer), laid, plate.plan().recipe(), material, printer.printer(), history(run, printer, spool, tries), tried, sliced.isOne(part));
    }

    private Shape shape(Part part, StockPrinter printer) {
        if (sliced.isOne(part) || !meshes.isKept(part)) {
            return Shape.UNKNOWN;
        }
        Inspection inspection = inspections.of(part);
        return Shape.of(inspection, printer.limits(), Slopes.shallowShare(meshes.mesh(part)));
    }

    private History history(Run run, StockPrinter printer, StockSpool spool, List<Tried> tries) {
        List<Maintenance.Due> care = maintenance.due(printer.id());
        List<Long> chain = tries.stream().map(each -> each.run().id()).toList();
        List<Defect> signs = run.signs().stream().map(Sign::defect).toList();
        RetryRepository.Alike here = retries.onPrinter(printer.id(), run, chain, signs, LATELY), same = retries.fromSpool(spool.id(), run, chain, signs, LATELY);
        LocalDate dry = Stream.of(spool.openedOn(), spool.driedOn()).filter(Objects::nonNull).max(Comparator.naturalOrder()).orElse(null);
        return new History(sinceWash(run, care), overdue(care, "level", "calibrat"), overdue(care, "belt"), inventory.nozzleHours().getOrDefault(printer.nozzleId(), 0.0),
                here.runs(), here.alike(), same.runs(), same.alike(), dry == null ? -1 : (int) ChronoUnit.DAYS.between(dry, LocalDate.ofInstant(run.startedAt(), inventory.zone())),
                spools.heldAt(spool.id(), run.startedAt()), run.promisedG(), machines.ofRun(run.id()).map(MachineFile::checked).orElse(false));
    }

    /** Runs since the plate was cleaned other than before each print; negative when that is no routine here, or was never done. */
    private int sinceWash(Run run, List<Maintenance.Due> care) {
        return care.stream().map(Maintenance.Due::task).filter(task -> task.routine().who() == Task.CLEAR && !task.routine().beforeEach() && task.everDone())
                .max(Comparator.comparing(MaintenanceTask::lastAt)).map(task -> retries.between(run.printerId(), task.lastAt(), run.startedAt())).orElse(-1);
    }

    /** Whether a routine is overdue that is called so, as far as a lab calls it as others do. */
    private static boolean overdue(List<Maintenance.Due> care, String... words) {
        return care.stream().filter(due -> due.standing() == MaintenanceTask.Standing.OVERDUE).map(due -> due.task().what().toLowerCase(Locale.ROOT))
                .anyMatch(what -> List.of(words).stream().anyMatch(what::contains));
    }

    /** Another of the material with enough on it: of the same colour if there is one, else the fullest. */
    private Optional<StockSpool> other(StockSpool spool, Run run) {
        return spools.shelf().stream().filter(each -> each.id() != spool.id() && each.spool().materialId().equals(spool.spool().materialId()) && each.spool().remainingG() > run.promisedG())
                .max(Comparator.comparing((StockSpool each) -> each.spool().colour().equals(spool.spool().colour())).thenComparing(each -> each.spool().remainingG()));
    }
}
