package fabbrica.web.demo;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Findings;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.web.DemoLabTest;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Every demo model shows what it was drawn to show. */
@DemoLabTest
class DemoModelsTest {

    @Autowired
    private Tickets tickets;

    @Test
    void useful_parts_are_sound() {
        for (Mesh mesh : List.of(DemoModels.shelfBracket(), DemoModels.mountingPlate(), DemoModels.planter(),
                DemoModels.gear(), DemoModels.phoneStand(), DemoModels.keyTag(), DemoModels.cableComb(),
                DemoModels.coaster(), DemoModels.wallHook())) {
            assertThat(Inspection.of(mesh).soundness().watertight()).isTrue();
            assertThat(Inspection.of(mesh).soundness().bodies()).hasSize(1);
        }
    }

    @Test
    void each_troubled_part_has_its_trouble() {
        assertThat(codes(DemoModels.lampCapWithHole())).contains(Finding.Code.OPEN_EDGES);
        assertThat(codes(DemoModels.knobInInches())).contains(Finding.Code.UNIT_SUSPECT);
        assertThat(codes(DemoModels.mushroom())).contains(Finding.Code.OVERHANG);
        assertThat(codes(DemoModels.hingeBox())).contains(Finding.Code.MULTIPLE_BODIES);
    }

    @Test
    void there_is_a_specimen_for_each_finding() {
        List<Finding.Code> shown = DemoModels.troubles().values().stream().flatMap(mesh -> codes(mesh).stream())
                .distinct().toList();
        assertThat(shown).contains(Arrays.stream(Finding.Code.values()).filter(code -> code != Finding.Code.TOO_BIG
                && code.compareTo(Finding.Code.TIPS_OVER) <= 0)
                .toArray(Finding.Code[]::new));
        Footprint gnome = Footprint.of(DemoModels.troubles().get("garden-gnome-of-a-metre.stl"));
        assertThat(BuiltIn.printers()).noneMatch(printer -> BedFit.of(gnome, printer.bed(), Allowance.NONE).fits());
    }

    @Test
    void the_rail_lies_only_on_the_largest_bed() {
        Footprint rail = Footprint.of(DemoModels.blindRail());
        assertThat(BuiltIn.printers()).filteredOn(printer -> BedFit.of(rail, printer.bed(), Allowance.NONE).fits())
                .extracting(Printer::id).containsExactly("large");
    }

    @Test
    void there_are_tickets_in_every_state() {
        assertThat(TicketState.values()).allSatisfy(state -> {
            List<Ticket> there = tickets.inStates(state);
            assertThat(there).as(state.label()).hasSizeGreaterThanOrEqualTo(2);
        });
        assertThat(Arrays.stream(TicketState.values()).map(TicketState::label)).doesNotHaveDuplicates();
    }

    private static List<Finding.Code> codes(Mesh mesh) {
        return Findings.of(Inspection.of(mesh), PrintLimits.USUAL).stream().map(Finding::code).toList();
    }
}
