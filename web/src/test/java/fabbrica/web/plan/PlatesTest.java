package fabbrica.web.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.LaidPlate.State;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class PlatesTest {

    @Autowired
    private Plates plates;
    @Autowired
    private Plans plans;
    @Autowired
    private Forecasts forecasts;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Steps steps;
    @Autowired
    private Spools spools;

    private String printer;
    private long spool;

    @BeforeEach
    void stock() {
        printer = steps.printer();
        spool = steps.spool("pla", 500);
    }

    @Test
    void copies_of_several_tickets_lie_on_one_plate_each_in_a_place_of_its_own() {
        long two = steps.accepted(Shapes.box(20, 20, 8), 2), one = steps.accepted(Shapes.box(40, 15, 6), 1);
        LaidPlate plate = plates.plate(drafted(two, one).getFirst());
        assertThat(plate.copies()).extracting(LaidCopy::ticketId).containsExactlyInAnyOrder(two, two, one);
        assertThat(plate.copies()).extracting(copy -> copy.copy().place()).doesNotHaveDuplicates();
        assertThat(tickets.ticket(one).state()).as("nothing waits for a printer yet").isEqualTo(TicketState.ACCEPTED);
        plates.enqueue(plate, "mira");
        assertThat(tickets.ticket(one).state()).isEqualTo(TicketState.QUEUED);
        assertThat(plates.plate(plate.id()).promise().portions().plastic()).hasSize(3);
        assertThatThrownBy(() -> drafted(two, one)).isInstanceOf(Refusal.class).hasMessageContaining("lie on plates already");
    }

    @Test
    void a_ticket_joins_a_plate_that_is_being_laid_with_as_many_copies_as_there_is_room_for() {
        long first = steps.accepted(Shapes.box(90, 90, 4), 1), many = steps.accepted(Shapes.box(80, 80, 4), 9);
        LaidPlate plate = plates.plate(drafted(first).getFirst());
        int laid = plates.add(plate, tickets.ticket(many), "mira");
        LaidPlate joined = plates.plate(plate.id());
        assertThat(laid).isBetween(2, 4);
        assertThat(joined.copies()).extracting(LaidCopy::ticketId).contains(first).hasSize(1 + laid);
        assertThat(plates.copies(many).missing()).isEqualTo(9 - laid);
        plates.enqueue(joined, "mira");
        assertThat(tickets.ticket(many).state()).isEqualTo(TicketState.QUEUED);
        assertThatThrownBy(() -> plates.add(joined, tickets.ticket(many), "mira")).as("it waits").isInstanceOf(Refusal.class);
        long taken = steps.taken(Shapes.box(10, 10, 4));
        assertThatThrownBy(() -> plates.add(joined, tickets.ticket(taken), "mira")).hasMessageContaining("accept it first");
    }

    @Test
    void a_ticket_for_which_there_is_no_room_leaves_the_plate_as_it_lies() {
        long first = steps.accepted(Shapes.box(180, 180, 4), 1), large = steps.accepted(Shapes.box(150, 150, 4), 1);
        LaidPlate plate = plates.plate(drafted(first).getFirst());
        assertThatThrownBy(() -> plates.add(plate, tickets.ticket(large), "mira")).hasMessage("There is no room for it on this plate.");
        assertThat(plates.plate(plate.id())).isEqualTo(plate);
        assertThatThrownBy(() -> plates.add(plate, tickets.ticket(first), "mira")).hasMessageContaining("lie on plates already");
    }

    @Test
    void what_does_not_fit_on_one_plate_goes_on_the_next() {
        long many = steps.accepted(Shapes.box(90, 90, 4), 6);
        List<Long> made = drafted(many);
        assertThat(made).hasSizeGreaterThan(1);
        assertThat(plates.plates(made).stream().mapToInt(plate -> plate.copies().size()).sum()).isEqualTo(6);
        assertThat(plates.copies(many).missing()).isZero();
    }

    @Test
    void copies_that_lie_over_one_another_cannot_be_queued_until_they_are_moved_apart() {
        long ticket = steps.accepted(Shapes.box(20, 20, 8), 2);
        LaidPlate plate = plates.plate(drafted(ticket).getFirst());
        List<Place> apart = plate.copies().stream().map(copy -> copy.copy().place()).toList();
        plates.rearrange(plate, plate.plan().entry(), Sequence.TOGETHER, List.of(apart.getFirst(), apart.getFirst().movedBy(5, 0)));
        assertThatThrownBy(() -> plates.enqueue(plates.plate(plate.id()), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("overlap");
        plates.rearrange(plates.plate(plate.id()), plate.plan().entry(), Sequence.TOGETHER,
                List.of(apart.getFirst(), apart.getFirst().movedBy(500, 0)));
        assertThatThrownBy(() -> plates.enqueue(plates.plate(plate.id()), "mira")).hasMessageContaining("bed");
        plates.rearrange(plates.plate(plate.id()), plate.plan().entry(), Sequence.TOGETHER, apart);
        plates.enqueue(plates.plate(plate.id()), "mira");
        assertThat(plates.plate(plate.id()).state()).isEqualTo(State.QUEUED);
    }

    @Test
    void another_plan_for_a_ticket_takes_its_waiting_plates_apart() {
        long first = steps.queued(Shapes.box(20, 20, 8), 2, printer, spool), ticket = steps.ticketOf(first);
        long second = steps.queue(ticket, steps.printer(), spool);
        assertThat(plates.plate(first).state()).isEqualTo(State.DISSOLVED);
        assertThat(plates.plate(second).copies()).hasSize(2);
        assertThat(plates.openOf(ticket)).extracting(LaidPlate::id).containsExactly(second);
    }

    @Test
    void a_part_of_another_size_leaves_its_plate_and_the_others_on_it_are_laid_anew() {
        long large = steps.accepted(Shapes.box(20, 20, 8), 1), other = steps.accepted(Shapes.box(15, 15, 8), 1);
        long plate = drafted(large, other).getFirst();
        plates.enqueue(plates.plate(plate), "mira");
        tickets.resize(tickets.ticket(large), LengthUnit.MILLIMETRE, 50, "mira");
        assertThat(plates.plate(plate).state()).isEqualTo(State.DRAFT);
        assertThat(plates.plate(plate).copies()).extracting(LaidCopy::ticketId).containsExactly(other);
        assertThat(List.of(large, other)).extracting(id -> tickets.ticket(id).state()).containsOnly(TicketState.ACCEPTED);
        assertThat(tickets.history(other).getLast().why()).contains("ticket no. " + large);
    }

    @Test
    void a_plate_moves_forward_in_its_queue_and_is_promised_sooner() {
        long first = steps.queued(Shapes.box(20, 20, 8), 1, printer, spool), second = steps.queued(Shapes.box(15, 15, 8), 1, printer, spool);
        assertThat(start(second)).isAfter(start(first));
        plates.reorder(List.of(second, first));
        assertThat(start(first)).isAfter(start(second));
    }

    @Test
    void a_plate_that_waits_is_laid_in_two_and_what_is_printed_alike_on_one() {
        long plate = steps.queued(Shapes.box(20, 20, 8), 5, printer, spool), ticket = steps.ticketOf(plate), last = steps.queued(Shapes.box(15, 15, 8), 1, printer, spool), single = steps.ticketOf(last);
        List<Long> two = plates.relay(plates.apart(plates.plate(plate), 2), "mira");
        assertThat(two).hasSize(2).startsWith(plate);
        assertThat(two).extracting(id -> plates.plate(id).copies().size()).containsExactly(3, 2);
        assertThat(two).extracting(id -> plates.plate(id).promise().portions().plastic().size()).containsExactly(3, 2);
        assertThat(plates.inState(State.QUEUED)).extracting(LaidPlate::id).as("both wait where it did").containsSubsequence(two.getFirst(), two.getLast(), last);
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.QUEUED);
        Plates.Relaid one = plates.together(plates.plate(two.getLast()), plates.plate(last));
        assertThat(one.longerS()).as("it gets ready once less").isNegative();
        assertThat(plates.relay(one, "mira")).containsExactly(two.getLast());
        assertThat(plates.plate(two.getLast()).copies()).extracting(LaidCopy::ticketId).containsExactlyInAnyOrder(ticket, ticket, single);
        assertThat(plates.plate(last).state()).isEqualTo(State.DISSOLVED);
        assertThat(plates.copies(ticket)).satisfies(copies -> assertThat(copies.missing()).isZero());
    }

    @Test
    void only_what_is_printed_alike_is_laid_together_and_only_some_of_the_copies_apart() {
        LaidPlate plate = plates.plate(steps.queued(Shapes.box(20, 20, 8), 2, printer, spool)),
                other = plates.plate(steps.queued(Shapes.box(15, 15, 8), 1, printer, steps.spool("pla", 300)));
        assertThat(plates.isAlike(plate, other)).isFalse();
        assertThatThrownBy(() -> plates.together(plate, other)).isInstanceOf(Refusal.class).hasMessageContaining("from the same spool");
        assertThatThrownBy(() -> plates.apart(plate, 2)).isInstanceOf(Refusal.class).hasMessageContaining("Of 2 copies between 1 and 1");
        LaidPlate wide = plates.plate(steps.queued(Shapes.box(170, 170, 2), 1, printer, spool)), wider = plates.plate(steps.queued(Shapes.box(175, 170, 2), 1, printer, spool));
        assertThatThrownBy(() -> plates.together(wide, wider)).isInstanceOf(Refusal.class).hasMessageContaining("do not all fit on one plate");
        steps.started(wide.id());
        assertThatThrownBy(() -> plates.together(plates.plate(wide.id()), wider)).isInstanceOf(Refusal.class);
    }

    private Instant start(long plate) {
        return forecasts.floor().of(plates.plate(plate)).orElseThrow().start();
    }

    @Test
    void plates_that_wait_cannot_be_promised_the_same_plastic_twice() {
        long small = spools.add(SpoolEntry.fresh("pla", "nearly gone", 10, 30, null), 10, "mira");
        steps.queued(Shapes.box(20, 20, 20), 1, printer, small);
        assertThatThrownBy(() -> steps.queued(Shapes.box(20, 20, 20), 1, printer, small)).isInstanceOf(Refusal.class).hasMessageContaining("g short");
    }

    @Test
    void a_plan_that_cannot_be_carried_out_is_refused_with_its_reasons() {
        long big = steps.taken(Shapes.box(300, 300, 5));
        assertThatThrownBy(() -> queue(big, "door", spool)).isInstanceOf(Refusal.class).hasMessageContaining("at the counter");
        assertThatThrownBy(() -> queue(steps.accepted(Shapes.box(300, 300, 5), 1), "door", spool)).hasMessageContaining("Too large for the bed");
        assertThatThrownBy(() -> queue(steps.accepted(Shapes.without(Shapes.box(20, 20, 20), 1), 1), "door", spool))
                .hasMessageContaining("finding that stops the print");
        long wood = spools.add(SpoolEntry.fresh("pla-wood", "oak", 500, 40, null), 500, "mira");
        long fine = steps.accepted(Shapes.box(20, 20, 20), 1);
        assertThatThrownBy(() -> queue(fine, "door", wood)).hasMessageContaining("abrasive");
        long empty = spools.add(SpoolEntry.fresh("pla", "nearly gone", 1, 30, null), 1, "mira");
        assertThatThrownBy(() -> queue(fine, "door", empty)).hasMessageContaining("g short");
        assertThatThrownBy(() -> queue(fine, "nowhere", spool)).hasMessageContaining("no longer in the stores");
        assertThatThrownBy(() -> queue(fine, "door", 99_999L)).hasMessageContaining("no longer in the stores");
    }

    @Test
    void a_plate_seen_before_it_was_changed_is_not_changed_again() {
        LaidPlate seen = plates.plate(steps.queued(Shapes.box(20, 20, 8), 1, printer, spool));
        plates.putBack(seen, "needs another colour", "mira");
        assertThatThrownBy(() -> plates.putBack(seen, "again", "tomas")).isInstanceOf(Outdated.class);
        assertThatThrownBy(() -> plates.takeOff(seen, List.of(seen.copies().getFirst().id()))).isInstanceOf(Outdated.class);
        plates.dissolve(plates.plate(seen.id()), "mira");
        assertThat(plates.plate(seen.id()).state()).isEqualTo(State.DISSOLVED);
    }

    private List<Long> drafted(long... ids) {
        return plates.draft(LongStream.of(ids).mapToObj(tickets::ticket).toList(),
                new PlanEntry(StartingPoint.DAILY_BREAD, steps.everyday(), printer, spool, false), Sequence.TOGETHER, "mira");
    }

    private List<Long> queue(long id, String on, long from) {
        return plates.queue(tickets.ticket(id), plans.keep(new PlanEntry(StartingPoint.DAILY_BREAD, steps.everyday(), on, from, false)), "mira");
    }
}
