package fabbrica.web.plan;

import fabbrica.core.bed.Layout;
import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.judge.Job;
import fabbrica.core.judge.MachineView;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.judge.People;
import fabbrica.core.judge.People.Person;
import fabbrica.core.judge.Policy;
import fabbrica.core.judge.Readiness;
import fabbrica.core.judge.Stock;
import fabbrica.core.judge.Takes;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.schedule.Span;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.MaintenanceTask;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Puts to the core's judgement whether a plate may be printed now: it gathers the views, the core decides. */
@Component
public class Judging {

    private final Inventory inventory;
    private final Keyholders keyholders;
    private final Maintenance maintenance;
    private final Members members;
    private final Inspections inspections;
    private final SlicedParts sliced;
    private final PlateRepository plates;
    private final Usage usage;
    private final Clock clock;

    Judging(Inventory inventory, Keyholders keyholders, Maintenance maintenance, Members members, Inspections inspections, SlicedParts sliced, PlateRepository plates, Usage usage,
            Clock clock) {
        this.inventory = inventory;
        this.keyholders = keyholders;
        this.maintenance = maintenance;
        this.members = members;
        this.inspections = inspections;
        this.sliced = sliced;
        this.plates = plates;
        this.usage = usage;
        this.clock = clock;
    }

    /**
     * All that does not change from one plate, printer or spool to the next, asked for once.
     *
     * @param copiesOf tickets with copies on the plate, as often as they have some
     */
    public final class Bench {

        private final List<Ticket> tickets;
        private final Map<Long, Integer> copies = new LinkedHashMap<>();
        private final Map<Long, Member> byId;
        private final Map<Long, Used> used;
        private final List<Maintenance.Due> due;
        private final Policy policy = inventory.lab().policy();
        private final List<Material> materials = inventory.materials();

        private Bench(List<Ticket> tickets, List<Long> copiesOf) {
            this.tickets = tickets;
            copiesOf.forEach(ticket -> copies.merge(ticket, 1, Integer::sum));
            List<Long> ids = tickets.stream().map(ticket -> ticket.request().memberId()).filter(Objects::nonNull).distinct().toList();
            byId = members.members(ids);
            used = usage.usedThisMonth(ids);
            due = maintenance.due();
        }

        /** A plate on a printer that nobody looks after yet; so also without a spool. */
        public List<Obstacle> planned(Plate plate, Layout layout, StockPrinter printer, Printer asItIs, Material material,
                                      @Nullable StockSpool spool, double promisedG, Optional<Takes> takes) {
            return Readiness.of(job(plate, layout, takes, asItIs), machine(printer, asItIs, ""), stock(material, spool, promisedG, ""),
                    new People(persons(printer), null, false), policy, clock.instant());
        }

        /** A plate that is to be started now. */
        public List<Obstacle> now(LaidPlate laid, Layout layout, StockPrinter printer, Printer asItIs, Material material, StockSpool spool,
                                  Takes takes) {
            Instant now = clock.instant();
            List<LaidPlate> running = plates.inState(LaidPlate.State.RUNNING);
            String busy = running.stream().filter(plate -> plate.plan().printerId().equals(printer.id())).map(Judging::named).findFirst().orElse("");
            String feeds = running.stream().filter(plate -> Objects.equals(plate.plan().spoolId(), spool.id())).map(Judging::named).findFirst().orElse("");
            Instant staffed = keyholders.duty().staffed(now, now).stream().map(Span::to).findFirst().orElse(null);
            return Readiness.of(job(laid.plate(), layout, Optional.of(takes), asItIs), machine(printer, asItIs, busy),
                    stock(material, spool, 0, feeds), new People(persons(printer), staffed, true), policy, now);
        }

        public Material material(StockSpool spool) {
            return materials.stream().filter(material -> material.id().equals(spool.spool().materialId())).findFirst().orElseThrow();
        }

        /** What the member of a ticket has had free this month. */
        Used used(Ticket ticket) {
            return used.getOrDefault(ticket.request().memberId(), Used.NOTHING);
        }

        /** By which the member of a ticket pays; empty for the whole price. */
        String memberClass(Ticket ticket) {
            return Optional.ofNullable(ticket.request().memberId()).map(byId::get).map(Member::memberClass).orElse("");
        }

        private Job job(Plate plate, Layout layout, Optional<Takes> takes, Printer printer) {
            Optional<String> file = sliced.fileOf(plate);
            if (file.isPresent()) {
                return new Job(plate, layout, List.of(), takes, sliced.replay(file.get(), printer));
            }
            List<Job.Item> items = new ArrayList<>();
            for (Part part : plate.copies().stream().map(Plate.Copy::part).distinct().toList()) {
                Optional<Ticket> whose = tickets.stream().filter(ticket -> ticket.model().isKept() && ticket.part().equals(part)).findFirst();
                items.add(new Job.Item(whose.map(ticket -> ticket.model().name()).orElse("the part"), inspections.of(part),
                        whose.map(ticket -> ticket.request().purpose() == Purpose.DISPLAY).orElse(false)));
            }
            return new Job(plate, layout, items, takes);
        }

        private MachineView machine(StockPrinter printer, Printer asItIs, String busy) {
            return new MachineView(asItIs, printer.limits(), printer.raftAlways(), printer.condition().down(), printer.condition().said(),
                    printer.condition().until(), busy, printer.unattended(), printer.usedBy(), due.stream()
                    .filter(each -> each.task().printerId().equals(printer.id()) && each.standing() == MaintenanceTask.Standing.OVERDUE)
                    .map(each -> each.task().what()).toList());
        }

        private Stock stock(Material material, @Nullable StockSpool spool, double promisedG, String feeds) {
            return spool == null ? Stock.of(material) : new Stock(material, spool.spool(), spool.diameterMm(), promisedG, feeds, spool.retired());
        }

        private List<Person> persons(StockPrinter printer) {
            double all = copies.values().stream().mapToInt(Integer::intValue).sum();
            Map<Long, Double> portions = new LinkedHashMap<>();
            for (Ticket ticket : tickets) {
                if (ticket.request().memberId() != null) {
                    portions.merge(ticket.request().memberId(), copies.getOrDefault(ticket.id(), 0) / Math.max(1, all), Double::sum);
                }
            }
            List<Person> persons = new ArrayList<>();
            portions.forEach((id, portion) -> {
                Member member = byId.get(id);
                if (member != null) {
                    Used had = used.getOrDefault(id, Used.NOTHING);
                    persons.add(new Person(member.name(), member.minor(), !member.lacksGrownUp(), member.hasBadge(printer.id()), had.grams(),
                            had.hours(), portion));
                }
            });
            return persons;
        }
    }

    private static String named(LaidPlate plate) {
        return "%s (plate no. %d)".formatted(plate.name(), plate.id());
    }

    /** @param copiesOf the ticket of each copy on the plate */
    public Bench bench(List<Ticket> tickets, List<Long> copiesOf) {
        return new Bench(tickets, copiesOf);
    }

    /** Grams that plates that wait were promised of each spool, but for some. */
    public Map<Long, Double> promised(List<Long> butFor) {
        return plates.promisedBySpool(butFor.isEmpty() ? List.of(0L) : butFor);
    }
}
