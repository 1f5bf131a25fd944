package fabbrica.bench.schedule;

import com.google.ortools.Loader;
import com.google.ortools.sat.BoolVar;
import com.google.ortools.sat.CircuitConstraint;
import com.google.ortools.sat.CpModel;
import com.google.ortools.sat.CpSolver;
import com.google.ortools.sat.CpSolverStatus;
import com.google.ortools.sat.IntVar;
import com.google.ortools.sat.LinearExpr;
import com.google.ortools.sat.LinearExprBuilder;
import com.google.ortools.sat.Literal;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Setup;
import fabbrica.core.schedule.Span;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.OptionalLong;

/**
 * The least objective of a floor, proved by a general constraint solver: one circuit of plates for each machine, whose arcs carry
 * the work between them. Floors without spools, people and pins.
 */
final class Exact {

    private final FloorView floor;
    private final CpModel model = new CpModel();
    private final LinearExprBuilder objective = LinearExpr.newBuilder();
    private final long horizon;

    private Exact(FloorView floor) {
        this.floor = floor;
        horizon = floor.staffed().stream().mapToLong(span -> at(span.to())).max().orElse(0)
                + floor.waiting().stream().flatMap(plate -> plate.options().stream()).mapToLong(option -> option.takes().toMinutes()).max().orElse(0);
    }

    /** @return nothing when it was not proved in so many seconds */
    static OptionalLong leastObjective(FloorView floor, double seconds, int threads) {
        Loader.loadNativeLibraries();
        return new Exact(floor).solve(seconds, threads);
    }

    private long at(Instant moment) {
        return Duration.between(floor.now(), moment).toMinutes();
    }

    private OptionalLong solve(double seconds, int threads) {
        List<IntVar> starts = new ArrayList<>(), works = new ArrayList<>(), ends = new ArrayList<>();
        List<List<BoolVar>> on = new ArrayList<>();
        for (Waiting plate : floor.waiting()) {
            IntVar start = model.newIntVar(Math.max(0, at(Objects.requireNonNull(plate.release()))), horizon, ""), work = model.newIntVar(0, horizon, "");
            IntVar end = model.newIntVar(0, 2 * horizon, ""), late = model.newIntVar(0, 2 * horizon, "");
            List<BoolVar> chosen = floor.machines().stream().map(machine -> model.newBoolVar("")).toList();
            model.addExactlyOne(chosen.toArray(Literal[]::new));
            model.addGreaterOrEqual(start, work);
            model.addGreaterOrEqual(late, LinearExpr.newBuilder().add(end).add(-at(Objects.requireNonNull(plate.due()))));
            objective.addTerm(late, 1000 * plate.weight()).add(end);
            starts.add(start);
            works.add(work);
            ends.add(end);
            on.add(chosen);
            for (int i = 0; i < floor.machines().size(); i++) {
                place(plate, floor.machines().get(i), chosen.get(i), start, work, end);
            }
        }
        for (int i = 0; i < floor.machines().size(); i++) {
            sequence(i, starts, works, ends, on);
        }
        model.minimize(objective);
        CpSolver solver = new CpSolver();
        solver.getParameters().setMaxTimeInSeconds(seconds);
        solver.getParameters().setNumWorkers(threads);
        return solver.solve(model) == CpSolverStatus.OPTIMAL ? OptionalLong.of(Math.round(solver.objectiveValue())) : OptionalLong.empty();
    }

    private void place(Waiting plate, Machine machine, BoolVar here, IntVar start, IntVar work, IntVar end) {
        Option option = plate.options().stream().filter(any -> any.machine().equals(machine.id())).findFirst().orElse(null);
        if (option == null) {
            model.addEquality(here, 0);
            return;
        }
        model.addEquality(end, LinearExpr.newBuilder().add(start).add(option.takes().toMinutes())).onlyEnforceIf(here);
        List<Literal> open = new ArrayList<>();
        for (Span staffed : floor.staffed()) {
            BoolVar within = model.newBoolVar("");
            open.add(within);
            model.addGreaterOrEqual(LinearExpr.newBuilder().add(start).addTerm(work, -1), at(staffed.from())).onlyEnforceIf(within);
            model.addLessOrEqual(option.unattended() ? start : end, at(staffed.to())).onlyEnforceIf(within);
        }
        model.addBoolOr(open.toArray(Literal[]::new)).onlyEnforceIf(here);
        for (Span down : machine.down()) {
            BoolVar before = model.newBoolVar("");
            model.addLessOrEqual(end, at(down.from())).onlyEnforceIf(new Literal[] {here, before});
            model.addGreaterOrEqual(LinearExpr.newBuilder().add(start).addTerm(work, -1), at(down.to())).onlyEnforceIf(new Literal[] {here, before.not()});
        }
    }

    /** A circuit through what is on a machine, from its state now and back; those that are elsewhere go round to themselves. */
    private void sequence(int number, List<IntVar> starts, List<IntVar> works, List<IntVar> ends, List<List<BoolVar>> on) {
        Machine machine = floor.machines().get(number);
        long ready = Math.max(0, at(Objects.requireNonNull(machine.ready()))), clear = machine.handling().clear().toMinutes();
        CircuitConstraint circuit = model.addCircuit();
        circuit.addArc(0, 0, model.newBoolVar(""));
        for (int j = 0; j < starts.size(); j++) {
            circuit.addArc(j + 1, j + 1, on.get(j).get(number).not());
            circuit.addArc(j + 1, 0, model.newBoolVar(""));
            BoolVar first = model.newBoolVar("");
            circuit.addArc(0, j + 1, first);
            follow(first, machine, machine.setup(), j, machine.covered() ? clear : 0, works);
            model.addGreaterOrEqual(LinearExpr.newBuilder().add(starts.get(j)).addTerm(works.get(j), -1), ready).onlyEnforceIf(first);
            for (int k = 0; k < starts.size(); k++) {
                if (k != j) {
                    BoolVar after = model.newBoolVar("");
                    circuit.addArc(k + 1, j + 1, after);
                    follow(after, machine, setup(k), j, clear, works);
                    model.addGreaterOrEqual(LinearExpr.newBuilder().add(starts.get(j)).addTerm(works.get(j), -1), ends.get(k)).onlyEnforceIf(after);
                }
            }
        }
    }

    private Setup setup(int plate) {
        return floor.waiting().get(plate).options().getFirst().setup();
    }

    private void follow(BoolVar arc, Machine machine, Setup standing, int plate, long clear, List<IntVar> works) {
        long change = switch (standing.changeTo(setup(plate))) {
            case NONE -> 0;
            case COLOUR -> machine.handling().changeColour().toMinutes();
            case MATERIAL -> machine.handling().changeMaterial().toMinutes();
        };
        model.addEquality(works.get(plate), change + clear).onlyEnforceIf(arc);
        objective.addTerm(arc, 10 * change);
    }
}
