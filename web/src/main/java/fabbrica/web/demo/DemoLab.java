package fabbrica.web.demo;

import fabbrica.core.bed.Bed;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.judge.BedCare;
import fabbrica.core.judge.Policy;
import fabbrica.core.mesh.io.ModelWriters;
import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Sign;
import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.schedule.Task;
import fabbrica.web.account.Accounts;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.account.Role;
import fabbrica.web.counter.Groups;
import fabbrica.web.counter.HandOver;
import fabbrica.web.counter.Intake;
import fabbrica.web.floor.Publishing;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.floor.RunEnd.CopyEnd;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Took;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.PlanEntry;
import fabbrica.web.plan.Plans;
import fabbrica.web.plan.Plates;
import fabbrica.web.stores.CalendarText;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keeping;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import fabbrica.web.stores.Lab;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.Routine;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Charges;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Currency;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.EventListener;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * An invented workshop with three weeks behind it, before which there may be more weeks, or years ({@link YearsRepository}). Everything
 * else goes through the same steps as in the browser; promises are real estimates, only what happened to the runs is made up, from a
 * fixed seed.
 */
@Component
@Lazy(false)
@ConditionalOnProperty("fabbrica.demo")
class DemoLab implements SmartInitializingSingleton {

    private static final String WHO = "mira";
    private static final int PAST_DAYS = 21;
    private static final String[] SOURCES = {"own drawing", "CAD course", "a friend's sculpture"};

    private final Inventory inventory;
    private final Keyholders keyholders;
    private final Spools shelf;
    private final Maintenance maintenance;
    private final Members members;
    private final Accounts accounts;
    private final Intake intake;
    private final Tickets tickets;
    private final Plans plans;
    private final Plates plates;
    private final Runs runs;
    private final Groups groups;
    private final Publishing floorPlan;
    private final Charges charges;
    private final YearsRepository years;
    private final DemoClock clock;
    private final Environment environment;
    private final TransactionTemplate transaction;
    private final Random chance = new Random(7);
    private final List<Begun> begun = new ArrayList<>();
    private long[] people = {};
    private long[] spools = {};

    DemoLab(Inventory inventory, Keyholders keyholders, Spools shelf, Maintenance maintenance, Members members, Accounts accounts, Intake intake, Tickets tickets,
            Plans plans, Plates plates, Runs runs, Groups groups, Publishing floorPlan, Charges charges, YearsRepository years, DemoClock clock, Environment environment, TransactionTemplate transaction) {
        this.inventory = inventory;
        this.keyholders = keyholders;
        this.shelf = shelf;
        this.maintenance = maintenance;
        this.members = members;
        this.accounts = accounts;
        this.intake = intake;
        this.tickets = tickets;
        this.plans = plans;
        this.plates = plates;
        this.runs = runs;
        this.groups = groups;
        this.floorPlan = floorPlan;
        this.charges = charges;
        this.years = years;
        this.clock = clock;
        this.environment = environment;
        this.transaction = transaction;
    }

    /** A plate that a machine began with some time ago. */
    record Begun(long plate, Instant at) {
    }

    /** In their order; the clock stands until they are on their machines. */
    List<Begun> begun() {
        return begun.stream().sorted(Comparator.comparing(Begun::at)).toList();
    }

    /** Nothing when it goes on with what it had. */
    @Override
    public void afterSingletonsInstantiated() {
        if (accounts.any()) {
            clock.release();
            return;
        }
        transaction.executeWithoutResult(status -> {
            try {
                accounts.add(WHO, "demo-coordinator", Role.COORDINATOR, "Mira", null, WHO);
                stock();
                people();
                past();
                longAgo(environment.getProperty("fabbrica.demo.years", Integer.class, 0), environment.getProperty("fabbrica.demo.weeks", Integer.class, 0));
                present();
                if (environment.getProperty("fabbrica.demo.crowd", Boolean.class, false)) {
                    years.crowd();
                }
                // Not before: what they have printed is made up, whenever the demo is started.
                attended("window");
                attended("old");
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            } finally {
                if (begun.isEmpty()) {
                    clock.release();
                }
            }
        });
    }

    @EventListener(ApplicationReadyEvent.class)
    void announce() {
        System.out.printf("Fabbrica runs at http://localhost:%s with demo data.%n"
                + "Sign in as  mira / demo-coordinator   tomas / demo-helper   june / demo-member%n",
                environment.getProperty("local.server.port", environment.getRequiredProperty("server.port")));
    }

    private void stock() {
        LocalDate today = today();
        Map<DayOfWeek, List<Hours>> weekdays = new EnumMap<>(DayOfWeek.class);
        for (DayOfWeek day : DayOfWeek.values()) {
            weekdays.put(day, day == DayOfWeek.SUNDAY ? List.of(Hours.of(12, 18)) : day == DayOfWeek.MONDAY
                    ? List.of(Hours.of(10, 17), Hours.of(18, 20)) : List.of(Hours.of(10, 20)));
        }
        inventory.save(new Lab("Harbour Street Workshop", Currency.getInstance("EUR"), null, 200, tariff(), new Policy(0, 0, false, false, false, true, 30, 5, 5, "Weapons and parts of them; copies of what is sold under a brand.", BedCare.USUAL),
                        new Keeping(365, 180, 1095, 3, 30), List.of("beside the door", "on the long table", "by the window", "at the back")),
                new Calendar(ZoneId.systemDefault(), weekdays, Map.of(today.plusDays(12), List.of())), WHO);
        keyholders();
        BuiltIn.materials().forEach(material -> inventory.add(material, WHO));
        Printer standard = BuiltIn.printer("standard").orElseThrow();
        printer(BuiltIn.printer("small").orElseThrow(), "window", "Window bench", nozzle(0.4, false, "brass", 40), "by the window");
        printer(standard, "door", "Door bench", nozzle(0.4, false, "brass", 210), "beside the door");
        printer(standard.with(standard.kinematics().withAcceleration(600)), "old", "Old faithful", nozzle(0.4, false, "brass", 900),
                "at the back");
        printer(BuiltIn.printer("large").orElseThrow(), "long", "Long table", nozzle(0.6, true, "steel", 120), "on the long table");
        printer(BuiltIn.printer("fast").orElseThrow(), "glass", "Glass house", nozzle(0.4, true, "steel", 310), "beside the door");
        nozzle(0.25, false, "brass, fine", 15);
        nozzle(0.6, true, "steel, spare", 0);
        maintenance.add("old", new Routine("Oil the rods", 200.0, null, Duration.ofMinutes(20), Task.CHANGE_NOZZLE), WHO);
        maintenance.add("door", new Routine("Tighten the belts", null, 30, Duration.ofMinutes(15), Task.CHANGE_NOZZLE), WHO);
        List.of("glass", "long").forEach(printer -> maintenance.add(printer, Routine.USUAL.get(1), WHO));
        spools = new long[] {
                spool("pla", "sand", 1000, 24, today.minusDays(40)),
                spool("pla", "bottle green", 1000, 24, today.minusDays(25)),
                spool("pla", "signal red", 1000, 26, today.minusDays(12)),
                spool("petg", "smoke", 1000, 29, today.minusDays(18)),
                spool("petg", "clear", 750, 31, null),
                spool("tpu", "black", 500, 42, today.minusDays(60)),
                spool("pla-wood", "walnut", 750, 36, today.minusDays(9)),
                spool("abs", "grey", 1000, 25, null),
                spool("pla", "lilac", 1000, 24, today.minusDays(90))};
        shelf.weigh(shelf.spool(spools[8]).orElseThrow(), 196, WHO);
    }

    private LocalDate today() {
        return LocalDate.ofInstant(clock.now(), ZoneId.systemDefault());
    }

    /** In all opening hours somebody may do everything; at the weekend and in the evenings there are fewer. */
    private void keyholders() {
        keyholder("Mira", EnumSet.allOf(Task.class), List.of(Hours.of(10, 20)), DayOfWeek.MONDAY, DayOfWeek.TUESDAY, DayOfWeek.WEDNESDAY, DayOfWeek.THURSDAY,
                DayOfWeek.FRIDAY);
        keyholder("Tomas", EnumSet.of(Task.START, Task.CHANGE_FILAMENT, Task.CLEAR), List.of(Hours.of(14, 20)), DayOfWeek.MONDAY, DayOfWeek.WEDNESDAY,
                DayOfWeek.THURSDAY, DayOfWeek.SATURDAY);
        keyholder("Yusra", EnumSet.allOf(Task.class), List.of(Hours.of(10, 20)), DayOfWeek.FRIDAY, DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);
    }

    private void keyholder(String name, Set<Task> may, List<Hours> hours, DayOfWeek... days) {
        keyholders.add(new Keyholder(0, name, may, new Calendar(ZoneId.systemDefault(), Arrays.stream(days).collect(Collectors.toMap(day -> day, day -> hours)),
                Map.of()), new CalendarText.Notes(Map.of())), WHO);
    }

    private long nozzle(double boreMm, boolean hardened, String note, double hoursBefore) {
        return inventory.add(new Nozzle(boreMm, hardened), "", note, hoursBefore, WHO);
    }

    private long spool(String material, String colour, double grams, double pricePerKg, @Nullable LocalDate opened) {
        return shelf.add(new SpoolEntry(null, material, colour, "shelf A", grams, 190.0, 1.75, "", pricePerKg, opened, null, false), grams, WHO);
    }

    /** Plastic and electricity at cost, 50 g a month free, fine layers a fifth dearer. */
    private static Tariff tariff() {
        Map<String, Double> rates = new LinkedHashMap<>();
        rates.put("Students", 0.5);
        rates.put("Members of the house", 1.0);
        rates.put("Guests", 1.5);
        return new Tariff(1, 0, 0.2, 0.32, 0, 10, 15, 50, 0, 0.15, 0.2, 0, 0.05, 5, rates);
    }

    private void printer(Printer like, String id, String name, long nozzleId, String place) {
        Nozzle nozzle = inventory.nozzle(nozzleId).orElseThrow().nozzle();
        Bed bed = like.bed();
        inventory.add(StockPrinter.usual(new Printer(id, name, bed, nozzle, like.kinematics(), like.preparation(),
                like.filamentMm(), like.enclosed(), like.maxNozzleC(), like.maxBedC(), like.materialIds()), nozzleId).at(place, true), WHO);
    }

    private void attended(String id) {
        StockPrinter printer = inventory.printer(id).orElseThrow();
        inventory.change(printer, printer.at(printer.place(), false), WHO);
    }

    private void people() {
        Set<String> all = Set.of("window", "door", "old", "long", "glass");
        people = new long[] {
                members.add(new Member(0, "June Abara", false, "", "", "", all), WHO),
                members.add(new Member(0, "Piet Lindqvar", false, "", "prefers matt colours", "Members of the house", Set.of("door", "old")), WHO),
                members.add(new Member(0, "Sora Vellin", true, "Ines Vellin", "", "Students", Set.of("window")), WHO),
                members.add(new Member(0, "Odo Karst", true, "", "", "Students", Set.of()), WHO),
                members.add(new Member(0, "Halima Quill", false, "", "CAD course", "Students", Set.of("window", "door", "long")), WHO),
                members.add(new Member(0, "Bruno Tesk", false, "", "", "Guests", Set.of()), WHO)};
        accounts.add("tomas", "demo-helper", Role.HELPER, "Tomas", null, WHO);
        accounts.add("june", "demo-member", Role.MEMBER, "June", people[0], WHO);
    }

    /** One to two finished tickets on most open days; every seventh run or so fails and is tried again. */
    private void past() throws IOException {
        String[] printers = {"door", "glass", "window", "old"};
        Object[][] jobs = {
                {"coaster.stl", DemoModels.coaster(), Purpose.EVERYDAY},
                {"key-tag.stl", DemoModels.keyTag(), Purpose.EVERYDAY},
                {"wall-hook.stl", DemoModels.wallHook(), Purpose.LOAD_BEARING},
                {"gear-18.stl", DemoModels.gear(), Purpose.PROTOTYPE},
                {"cable-comb.stl", DemoModels.cableComb(), Purpose.EVERYDAY},
                {"mounting-plate.stl", DemoModels.mountingPlate(), Purpose.EVERYDAY}};
        ZonedDateTime noon = today().atTime(10, 30).atZone(ZoneId.systemDefault());
        int number = 0;
        for (int day = PAST_DAYS; day >= 1; day--) {
            for (int ofDay = 0; ofDay < 1 + day % 2; ofDay++, number++) {
                Object[] job = jobs[number % jobs.length];
                Instant morning = noon.minusDays(day).plusMinutes(150L * ofDay).toInstant();
                finished(morning, (String) job[0], (Mesh) job[1], (Purpose) job[2],
                        printers[(number % jobs.length) % printers.length], number);
            }
        }
    }

    /** Years, or weeks, before those that went through the steps; the printers were looked after all along. */
    private void longAgo(int howManyYears, int howManyWeeks) {
        Instant until = today().minusDays(PAST_DAYS).atStartOfDay(ZoneId.systemDefault()).toInstant();
        if (howManyYears > 0) {
            years.years(howManyYears, until);
        } else if (howManyWeeks > 0) {
            years.weeks(howManyWeeks, until);
        }
        if (howManyYears + howManyWeeks > 0) {
            maintenance.due().forEach(due -> maintenance.done(due.task().id(), WHO));
        }
    }

    private void finished(Instant morning, String name, Mesh mesh, Purpose purpose, String printer, int number)
            throws IOException {
        clock.put(morning);
        long id = taken(name, mesh);
        tickets.accept(tickets.ticket(id), request(people[number % people.length], purpose, null, "", 1), WHO);
        long plate = queue(id, printer, spools[number % 3], purpose.startingPoint());
        clock.put(morning.plusSeconds(1200));
        Run run = start(plate);
        boolean fails = number % 7 == 4;
        if (fails) {
            double reached = 0.2 + 0.6 * chance.nextDouble();
            Defect[] usual = {Defect.CAME_OFF, Defect.STRINGS, Defect.GAPS, Defect.SHIFTED};
            end(run, Outcome.FAILED, reached, reached, List.of(usual[number % usual.length]), "");
            clock.put(clock.instant().plusSeconds(600));
            run = start(runs.again(runs.run(run.id()), WHO));
        }
        double slower = 1.0 + 0.12 * chance.nextDouble() + (printer.equals("old") ? 0.1 : 0);
        end(run, Outcome.WELL, slower, 0.98 + 0.06 * chance.nextDouble(), List.of(), "");
        clock.put(clock.instant().plusSeconds(3600));
        if (tickets.ticket(id).charge().isDue() && number % 5 != 3) {
            charges.pay(tickets.ticket(id), WHO);
        }
        tickets.handOut(tickets.ticket(id), WHO);
    }

    /** What is on the counter and on the floor today. */
    private void present() throws IOException {
        Instant now = clock.now();
        clock.put(now.minus(Duration.ofHours(26)));
        long big = taken("wall-panel.stl", fabbrica.core.mesh.model.Shapes.box(420, 380, 12));
        tickets.decline(tickets.ticket(big), "Larger than every bed; we offered to split it.", WHO);
        long cap = taken("lamp-cap.stl", DemoModels.lampCapWithHole());
        tickets.saveRequest(tickets.ticket(cap), request(people[4], Purpose.DISPLAY, now.plus(Duration.ofDays(3)), "", 1));

        clock.put(now.minus(Duration.ofHours(5)));
        long stand = accepted("phone-stand.stl", DemoModels.phoneStand(), 0, Purpose.EVERYDAY, 30, 1);
        long standPlate = queue(stand, "door", spools[0], StartingPoint.DAILY_BREAD);
        begin(standPlate, now.minus(Duration.ofMinutes(70)));
        clock.put(now.minus(Duration.ofHours(4)));
        long box = accepted("hinge-box.stl", DemoModels.hingeBox(), 1, Purpose.EVERYDAY, 28, 1);
        long boxPlate = queue(box, "glass", spools[3], StartingPoint.DAILY_BREAD);
        begin(boxPlate, now.minus(Duration.ofMinutes(32)));

        clock.put(now.minus(Duration.ofHours(3)));
        queue(accepted("bird.stl", DemoModels.bird(), 2, Purpose.DISPLAY, 50, 1), "door", spools[1],
                StartingPoint.DAILY_BREAD);
        queue(accepted("cable-comb.stl", DemoModels.cableComb(), 4, Purpose.EVERYDAY, 26, 4), "window", spools[2],
                StartingPoint.DAILY_BREAD);
        queue(accepted("shelf-bracket.stl", DemoModels.shelfBracket(), 0, Purpose.LOAD_BEARING, 70, 2), "glass",
                spools[3], StartingPoint.WORK_HORSE);

        long failed = accepted("mushroom.stl", DemoModels.mushroom(), 1, Purpose.DISPLAY, 40, 1);
        long failedPlate = queue(failed, "old", spools[1], StartingPoint.DAILY_BREAD);
        end(start(failedPlate), Outcome.FAILED, 0.62, 0.6, List.of(Defect.DROOPED, Defect.STRINGS),
                "cap printed into air");
        clock.put(now.minus(Duration.ofHours(2)));
        long printed = accepted("gear-18.stl", DemoModels.gear(), 4, Purpose.PROTOTYPE, 8, 1);
        long printedPlate = queue(printed, "window", spools[2], StartingPoint.ROUGH_CUT);
        end(start(printedPlate), Outcome.WELL, 1.06, 1.01, List.of(), "");

        clock.put(now.minus(Duration.ofMinutes(50)));
        accepted("planter.stl", DemoModels.planter(), 5, Purpose.DISPLAY, 60, 1);
        accepted("key-tag.stl", DemoModels.keyTag(), 3, Purpose.EVERYDAY, 6, 12);
        clock.put(now.minus(Duration.ofMinutes(35)));
        long mounting = taken("mounting-plate.stl", DemoModels.mountingPlate());
        tickets.saveRequest(tickets.ticket(mounting), request(people[0], Purpose.LOAD_BEARING, now.plus(Duration.ofDays(4)), "", 1));
        tickets.sendBack(tickets.ticket(mounting),
                "The screw holes are 2 mm too close to the edge; please draw them again.", WHO);
        clock.put(now.minus(Duration.ofMinutes(20)));
        taken("drawer-knob.stl", DemoModels.knobInInches());
        taken("blind-rail.stl", DemoModels.blindRail());
        taken("bird-large.stl", DemoModels.bird().scaled(1.6));

        clock.put(now.minus(Duration.ofHours(28)));
        long comb = accepted("cable-comb.stl", DemoModels.cableComb(), 1, Purpose.EVERYDAY, 20, 1);
        long combPlate = queue(comb, "old", spools[1], StartingPoint.DAILY_BREAD);
        end(start(combPlate), Outcome.FAILED, 0.3, 0.35, List.of(Defect.CAME_OFF), "finger marks on the plate");
        clock.put(now.minus(Duration.ofHours(27)));
        long hook = accepted("wall-hook.stl", DemoModels.wallHook(), 0, Purpose.LOAD_BEARING, 12, 1);
        long hookPlate = queue(hook, "old", spools[2], StartingPoint.WORK_HORSE);
        end(start(hookPlate), Outcome.WELL, 1.12, 1.02, List.of(), "");
        clock.put(now.minus(Duration.ofHours(24)));
        tickets.sendBack(tickets.ticket(taken("gear-18.stl", DemoModels.gear().scaled(0.2))),
                "At this size the teeth are thinner than a line; please check the scale.", WHO);
        tickets.decline(tickets.ticket(taken("key-tag.stl", DemoModels.keyTag())), "Forty more of the same: over fair use.", WHO);
        for (int i = 0; i < 2; i++) {
            long tag = accepted("key-tag.stl", DemoModels.keyTag(), 2 + i, Purpose.EVERYDAY, 40, 1);
            tickets.withdraw(tickets.ticket(tag), "found one at home", WHO);
        }
        clock.put(now.minus(Duration.ofMinutes(5)));
        parcelOfTroubles();
        accepted("lighthouse.stl", DemoModels.lighthouse(), 2, Purpose.DISPLAY, 3, 1);
        overdue(now);
        eveningCourse(now);
        week(now);
    }

    /** What waits for the days to come, in the plan that holds; the last two have come since it was published. */
    private void week(Instant now) throws IOException {
        clock.put(now.minus(Duration.ofMinutes(3)));
        for (int i = 0; i < 3; i++) {
            queue(accepted("gear-18.stl", DemoModels.gear(), 2 + i, Purpose.PROTOTYPE, 74, 1), "glass", spools[2], StartingPoint.ROUGH_CUT);
        }
        queue(accepted("phone-stand.stl", DemoModels.phoneStand(), 1, Purpose.EVERYDAY, 50, 1), "door", spools[0], StartingPoint.DAILY_BREAD);
        queue(accepted("hinge-box.stl", DemoModels.hingeBox(), 4, Purpose.EVERYDAY, 100, 1), "glass", spools[3], StartingPoint.DAILY_BREAD);
        queue(accepted("coaster.stl", DemoModels.coaster(), 5, Purpose.EVERYDAY, 52, 1), "glass", spools[2], StartingPoint.DAILY_BREAD);
        queue(accepted("wall-hook.stl", DemoModels.wallHook(), 0, Purpose.LOAD_BEARING, 76, 1), "window", spools[2], StartingPoint.WORK_HORSE);
        queue(accepted("planter.stl", DemoModels.planter(), 3, Purpose.DISPLAY, 124, 1), "long", spools[6], StartingPoint.DAILY_BREAD);
        queue(accepted("coaster.stl", DemoModels.coaster(), 1, Purpose.EVERYDAY, 98, 6), "long", spools[0], StartingPoint.DAILY_BREAD);
        queue(accepted("wall-hook.stl", DemoModels.wallHook(), 4, Purpose.LOAD_BEARING, 80, 6), "window", spools[2], StartingPoint.WORK_HORSE);
        queue(accepted("hinge-box.stl", DemoModels.hingeBox(), 3, Purpose.EVERYDAY, 120, 3), "glass", spools[3], StartingPoint.DAILY_BREAD);
        queue(accepted("phone-stand.stl", DemoModels.phoneStand(), 0, Purpose.EVERYDAY, 148, 2), "window", spools[0], StartingPoint.DAILY_BREAD);
        queue(accepted("cable-comb.stl", DemoModels.cableComb(), 2, Purpose.EVERYDAY, 100, 12), "glass", spools[2], StartingPoint.DAILY_BREAD);
        queue(accepted("shelf-bracket.stl", DemoModels.shelfBracket(), 3, Purpose.LOAD_BEARING, 96, 6), "glass", spools[3], StartingPoint.WORK_HORSE);
        queue(accepted("planter.stl", DemoModels.planter(), 4, Purpose.DISPLAY, 150, 2), "long", spools[6], StartingPoint.DAILY_BREAD);
        floorPlan.publishAsItWaits(WHO);
        clock.put(now.minus(Duration.ofMinutes(2)));
        queue(accepted("bird.stl", DemoModels.bird(), 0, Purpose.DISPLAY, 30, 1), "door", spools[1], StartingPoint.DAILY_BREAD);
        queue(accepted("coaster.stl", DemoModels.coaster(), 1, Purpose.EVERYDAY, 54, 1), "door", spools[0], StartingPoint.DAILY_BREAD);
    }

    /** Three of a course, with one deadline. */
    private void eveningCourse(Instant now) throws IOException {
        clock.put(now.minus(Duration.ofMinutes(4)));
        List<Ticket> course = new ArrayList<>();
        course.add(asked("gear-small.stl", DemoModels.gear().scaled(0.8), 1));
        course.add(asked("coaster-small.stl", DemoModels.coaster().scaled(0.7), 4));
        course.add(asked("comb-small.stl", DemoModels.cableComb().scaled(0.9), 5));
        groups.make("Evening course", Purpose.PROTOTYPE, now.plus(Duration.ofDays(5)), course, WHO);
    }

    /** A print that should have ended twelve minutes ago, and nobody has come by. */
    private void overdue(Instant now) throws IOException {
        long plate = queue(accepted("coaster.stl", DemoModels.coaster(), 1, Purpose.EVERYDAY, 48, 1), "long", spools[6], StartingPoint.DAILY_BREAD);
        begin(plate, now.minus(Duration.ofMinutes(12)).minus(Objects.requireNonNull(plates.plate(plate).promise()).takes()));
    }

    /** What prints now: where there are machines, they are told so once the lab is there. */
    private void begin(long plate, Instant at) {
        if (environment.getProperty("fabbrica.demo.machines", Boolean.class, false)) {
            begun.add(new Begun(plate, at));
            return;
        }
        clock.put(at);
        start(plate);
    }

    private Ticket asked(String name, Mesh mesh, int person) throws IOException {
        long id = taken(name, mesh);
        tickets.saveRequest(tickets.ticket(id), request(people[person], null, null, "", 1));
        return tickets.ticket(id);
    }

    /** An archive with a specimen for each finding, waiting to be sorted. */
    private void parcelOfTroubles() throws IOException {
        ByteArrayOutputStream parcel = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(parcel)) {
            for (Map.Entry<String, Mesh> trouble : DemoModels.troubles().entrySet()) {
                zip.putNextEntry(new ZipEntry(trouble.getKey()));
                ByteArrayOutputStream model = new ByteArrayOutputStream();
                ModelWriters.write(trouble.getValue(), ModelWriters.formatOf(trouble.getKey()).orElseThrow(),
                        trouble.getKey(), model);
                zip.write(model.toByteArray());
            }
        }
        intake.take("box-of-troubles.zip", parcel.size(), new ByteArrayInputStream(parcel.toByteArray()),
                UUID.randomUUID().toString(), WHO);
    }

    private long accepted(String name, Mesh mesh, int person, Purpose purpose, int neededInHours, int quantity)
            throws IOException {
        long id = taken(name, mesh);
        tickets.accept(tickets.ticket(id), request(people[person], purpose, clock.now().plus(Duration.ofHours(neededInHours)), "",
                quantity), WHO);
        return id;
    }

    private long taken(String name, Mesh mesh) throws IOException {
        ByteArrayOutputStream stl = new ByteArrayOutputStream();
        BinaryStlWriter.write(mesh, "Fabbrica demo: " + name, stl);
        HandOver taken = intake.take(name, stl.size(), new ByteArrayInputStream(stl.toByteArray()), UUID.randomUUID().toString(), WHO);
        HandOver.Piece piece = taken.pieces().getFirst();
        return piece.ticketId() != null ? piece.ticketId() : intake.choose(taken.id(), List.of(piece.modelId()), WHO).getFirst();
    }

    private static Request request(long member, @Nullable Purpose purpose, @Nullable Instant neededBy, String colour, int quantity) {
        return new Request(member, purpose, neededBy, "", colour, quantity, SOURCES[(int) (member % SOURCES.length)], "");
    }

    /** @return the first of the plates */
    private long queue(long id, String printerId, long spoolId, StartingPoint start) {
        Printer printer = inventory.printer(printerId).orElseThrow().printer();
        Recipe recipe = start.recipe(printer.nozzle(), printer.kinematics());
        return plates.queue(tickets.ticket(id), plans.keep(new PlanEntry(start, recipe, printerId, spoolId, false)), WHO).getFirst();
    }

    private Run start(long plate) {
        return runs.run(runs.start(plates.plate(plate), WHO).orElseThrow());
    }

    private void end(Run run, Outcome outcome, double timeFactor, double gramsFactor, List<Defect> defects, String cause) {
        double minutes = Math.round((run.prepareS() + (run.rawS() - run.prepareS()) * timeFactor) / 60);
        Instant ended = run.startedAt().plus(Duration.ofMinutes((long) minutes));
        clock.put(ended.isBefore(Instant.now()) ? ended : Instant.now());
        double grams = Math.round(run.rawG() * gramsFactor * 10) / 10.0;
        runs.end(run.id(), new RunEnd(new Took(minutes, Source.MEASURED, grams, Source.MEASURED), plates.plate(run.plateId()).copies().stream().map(copy -> new CopyEnd(copy.id(), outcome, "", null))
                .toList(), defects.stream().map(Sign::of).toList(), cause, "", null, null), WHO);
    }
}
