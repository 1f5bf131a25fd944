package fabbrica.web.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.ArgumentMatchers.anyList;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import fabbrica.core.estimate.Difference;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Expected;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.Printed;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.trade.TradeTable;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.core.trade.Way;
import fabbrica.core.trade.Ways;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.plan.TradeController.DifferencePage;
import fabbrica.web.plan.TradeController.Line;
import fabbrica.web.plan.TradeController.Pick;
import fabbrica.web.plan.TradeController.Scale;
import fabbrica.web.plan.TradeController.WaysPage;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Seen;
import fabbrica.web.ticket.Charge;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.StoredModel;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.transaction.TransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.ui.ConcurrentModel;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** A plate of 20 × 20 × 4 mm in PLA, other ways of which could start at noon but for those on the other printer, an hour later. */
class TradeControllerTest {

    private static final Instant NOON = Instant.parse("2026-05-04T12:00:00Z");
    private static final Printer PLANNED = BuiltIn.printer("standard").orElseThrow(), OTHER = BuiltIn.printer("fast").orElseThrow();
    private static final PlanEntry ENTRY = new PlanEntry(StartingPoint.DAILY_BREAD,
            StartingPoint.DAILY_BREAD.recipe(PLANNED.nozzle(), PLANNED.kinematics()), PLANNED.id(), null, false);
    private static final Plan PLAN = new Plan(5, ENTRY);
    private static final Rotation BEST = new Rotation(0, 1, 0, 0);
    private static final Principal MIRA = () -> "mira";

    private static TradeTable table;

    private final Trade trade = mock();
    private final Tickets tickets = mock();
    private final Plans plans = mock();
    private final TransactionTemplate transaction = mock();
    private final TradeController controller = new TradeController(trade, tickets, plans, transaction);

    @BeforeAll
    static void work() {
        Function<Way, Estimate> estimates = Printed.ways(Shapes.box(20, 20, 4), Rotation.NONE);
        table = TradeTable.of(Ways.of(PLANNED, ENTRY.recipe(), BuiltIn.PLA, false, false, List.of(), List.of(OTHER)).stream()
                .map(way -> Row.of(way, Expected.unlearned(estimates.apply(way)), way.printer().equals(OTHER) ? NOON.plus(Duration.ofHours(1)) : NOON)).toList(),
                new TradeTable.Shape(0, Double.POSITIVE_INFINITY));
    }

    @BeforeEach
    void shelves() {
        when(plans.plan(5)).thenReturn(PLAN);
        when(plans.keep(anyList())).thenAnswer(call -> {
            List<PlanEntry> entries = call.getArgument(0);
            return IntStream.range(0, entries.size()).mapToObj(i -> new Plan(100 + i, entries.get(i))).toList();
        });
        doAnswer(call -> {
            call.<Consumer<TransactionStatus>>getArgument(0).accept(mock());
            return null;
        }).when(transaction).executeWithoutResult(any());
        standing(table);
    }

    private void standing(TradeTable rows) {
        when(trade.standings(any(), any(), anyBoolean())).thenReturn(new Trade.Standings(rows, 2, 0.75));
    }

    private Ticket ticket(@Nullable Instant neededBy) {
        Ticket ticket = new Ticket(9, mock(StoredModel.class), TicketState.ACCEPTED, new Request(null, Purpose.EVERYDAY, neededBy, "", "", 1, "", ""),
                LengthUnit.MILLIMETRE, 80, Rotation.NONE, 5L, null, NOON, Charge.NONE, "");
        when(tickets.ticket(9)).thenReturn(ticket);
        return ticket;
    }

    private WaysPage page() {
        ConcurrentModel page = new ConcurrentModel();
        assertThat(controller.table(9, 5, page)).isEqualTo("plan/trade :: ways");
        return (WaysPage) page.getAttribute("page");
    }

    private Scale scale(@Nullable Instant neededBy) {
        ticket(neededBy);
        return page().scale();
    }

    private static Instant last() {
        return table.rows().stream().map(Row::ready).max(Instant::compareTo).orElseThrow();
    }

    @Test
    void rows_stand_on_one_scale_of_time_from_the_first_start_to_the_last_end() {
        Scale scale = scale(null);
        assertThat(scale.from()).isEqualTo(NOON);
        assertThat(scale.to()).isEqualTo(last());
        double span = Duration.between(NOON, last()).toSeconds();
        assertThat(scale.lines()).hasSize(table.rows().size()).allSatisfy(line -> {
            assertThat(line.startAt() / 100 * span).isCloseTo(line.row().way().printer().equals(OTHER) ? 3600 : 0, within(1.0));
            assertThat(line.length() / 100 * span).isCloseTo(line.row().expected().totalSeconds() + line.row().way().setupS(), within(1.0));
            assertThat(line.inTime()).as("nobody is in a hurry").isTrue();
        });
        assertThat(scale.lines()).anySatisfy(line -> assertThat(line.startAt() + line.length()).isCloseTo(100, within(1e-9)));
        assertThat(scale.lines().stream().mapToDouble(Line::grams).max()).hasValue(100);
        assertThat(scale.neededAt()).isNull();
    }

    @Test
    void each_row_has_a_plan_of_its_own_recipe_on_its_own_printer() {
        assertThat(scale(null).lines()).allSatisfy(line -> {
            assertThat(line.plan().recipe()).isEqualTo(line.row().way().recipe());
            assertThat(line.plan().printerId()).isEqualTo(line.row().way().printer().id());
        });
    }

    @Test
    void rows_that_come_too_late_are_told_from_those_in_time_and_the_finest_of_these_is_named() {
        List<Instant> ends = new ArrayList<>(table.rows().stream().map(Row::ready).sorted().toList());
        Instant needed = ends.get(ends.size() / 2);
        Scale scale = scale(needed);
        assertThat(scale.lines()).extracting(Line::inTime).contains(true, false);
        assertThat(scale.lines()).allSatisfy(line -> assertThat(line.inTime()).isEqualTo(!line.row().ready().isAfter(needed)));
        assertThat(scale.neededAt()).isCloseTo(100.0 * Duration.between(NOON, needed).toSeconds() / Duration.between(NOON, last()).toSeconds(), within(1e-6));
        assertThat(scale.picks()).extracting(Pick::label).containsExactly("fastest that still looks right", "least plastic", "finest that is ready by then");
        Row finest = scale.picks().getLast().line().row();
        assertThat(scale.lines()).filteredOn(line -> line.inTime() && line.row().way().scale() == 1 && line.row().way().setupS() == 0)
                .allSatisfy(line -> assertThat(line.row().way().recipe().layerHeightMm()).isGreaterThanOrEqualTo(finest.way().recipe().layerHeightMm()));
        assertThat(scale.lines()).filteredOn(line -> line.row() == finest).singleElement()
                .satisfies(line -> assertThat(line.picks()).contains("finest that is ready by then"));
    }

    @Test
    void the_scale_reaches_to_the_needed_by_moment_only_while_rows_stay_readable() {
        Duration span = Duration.between(NOON, last());
        assertThat(scale(last().plus(span.dividedBy(2))).neededAt()).isEqualTo(100);
        assertThat(scale(last().plus(span.multipliedBy(2))).neededAt()).isNull();
        assertThat(scale(NOON.minusSeconds(60)).neededAt()).isZero();
        assertThat(scale(last().plus(span.multipliedBy(2))).to()).isEqualTo(last());
    }

    @Test
    void until_the_plan_itself_is_worked_out_there_is_only_how_far_the_work_is() {
        standing(new TradeTable(List.of()));
        ticket(null);
        WaysPage page = page();
        assertThat(page.scale()).isNull();
        assertThat(page.waiting()).isEqualTo(2);
        assertThat(page.done()).isEqualTo(0.75);
    }

    @Test
    void stopping_starts_nothing_again() {
        Ticket ticket = ticket(null);
        controller.stop(9, 5, new ConcurrentModel());
        verify(trade).stop(ticket, PLAN);
        verify(trade).standings(ticket, PLAN, true);
    }

    @Test
    void two_ways_are_compared_phase_by_phase_once_both_are_chosen() {
        ticket(null);
        Row first = table.rows().getFirst(), second = table.rows().get(1);
        DifferencePage both = difference(first.way().change(), second.way().change());
        assertThat(both.differences().stream().mapToDouble(Difference::moreSeconds).sum())
                .isCloseTo(second.expected().totalSeconds() - first.expected().totalSeconds(), within(1e-6));
        assertThat(difference(first.way().change(), "of gold").differences()).isEmpty();
    }

    private DifferencePage difference(String first, String second) {
        ConcurrentModel page = new ConcurrentModel();
        controller.difference(9, 5, first, second, page);
        return (DifferencePage) page.getAttribute("page");
    }

    @Test
    void a_way_that_only_changes_the_recipe_leaves_the_part_as_it_is() {
        assertThat(take(ticket(null), false, 1)).isEqualTo("/tickets/9?plan=5#preview");
        verify(tickets, never()).turn(any(), any(), anyString());
        verify(tickets, never()).resize(any(), any(), anyDouble(), anyString());
    }

    @Test
    void a_way_lying_otherwise_and_smaller_turns_the_part_and_scales_what_it_was_scaled_to() {
        Ticket ticket = ticket(null);
        when(trade.bestPose(ticket)).thenReturn(BEST);
        take(ticket, true, 0.9);
        verify(tickets).turn(ticket, BEST, "mira");
        verify(tickets).resize(ticket, LengthUnit.MILLIMETRE, 72, "mira");
    }

    @Test
    void no_part_grows_or_vanishes_by_taking_a_way() {
        Ticket ticket = ticket(null);
        for (double scale : new double[] {1.5, 0, -1, Double.NaN}) {
            assertThatThrownBy(() -> take(ticket, false, scale)).isInstanceOf(OutOfRange.class);
        }
        verify(tickets, never()).resize(any(), any(), anyDouble(), anyString());
    }

    @Test
    void a_table_made_of_a_ticket_that_has_changed_since_takes_nothing() {
        Ticket older = ticket(null);
        ticket(NOON);
        when(trade.bestPose(any())).thenReturn(BEST);
        assertThatThrownBy(() -> take(older, true, 0.9)).isInstanceOf(Outdated.class);
        verify(tickets, never()).turn(any(), any(), anyString());
    }

    /** Where the browser goes on, from a table made of the ticket as given. */
    private @Nullable String take(Ticket made, boolean turned, double scale) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.add(Seen.FIELD, Seen.of(made));
        MockHttpServletResponse response = new MockHttpServletResponse();
        controller.use(9, 5, turned, scale, values, MIRA, response);
        return response.getHeader("HX-Redirect");
    }
}
