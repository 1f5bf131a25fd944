package fabbrica.web.privacy;

import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.run.Defect;
import fabbrica.core.units.Money;
import fabbrica.web.account.Account;
import fabbrica.web.account.Accounts;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunCopy;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.SlicedFile;
import fabbrica.web.plan.SlicedFiles;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.privacy.OwnData.Asked;
import fabbrica.web.privacy.OwnData.Attempt;
import fabbrica.web.privacy.OwnData.Step;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Enclosure;
import fabbrica.web.ticket.Enclosures;
import fabbrica.web.ticket.StoredModel;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import tools.jackson.databind.ObjectMapper;

/**
 * Hands somebody what the lab keeps of them: a ZIP archive with {@code data.json} (an {@link OwnData}) and the models,
 * sliced files and photos of their tickets.
 */
@Service
class Export {

    private final Events events;
    private final Members members;
    private final Accounts accounts;
    private final Tickets tickets;
    private final Enclosures enclosures;
    private final Runs runs;
    private final SlicedFiles slicedFiles;
    private final Inventory inventory;
    private final FileStore files;
    private final Clock clock;
    private final ObjectMapper json;

    Export(Events events, Members members, Accounts accounts, Tickets tickets, Enclosures enclosures, Runs runs, SlicedFiles slicedFiles,
           Inventory inventory, FileStore files, Clock clock, ObjectMapper json) {
        this.events = events;
        this.members = members;
        this.accounts = accounts;
        this.tickets = tickets;
        this.enclosures = enclosures;
        this.runs = runs;
        this.slicedFiles = slicedFiles;
        this.inventory = inventory;
        this.files = files;
        this.clock = clock;
        this.json = json;
    }

    /** @param files what is kept besides, by its name in the archive */
    record Archive(byte[] data, Map<String, Path> files) {

        void write(OutputStream out) throws IOException {
            ZipOutputStream zip = new ZipOutputStream(out);
            zip.putNextEntry(new ZipEntry("data.json"));
            zip.write(data);
            for (Map.Entry<String, Path> file : files.entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                Files.copy(file.getValue(), zip);
            }
            zip.finish();
        }
    }

    /** @throws java.util.NoSuchElementException when there is no such account */
    Archive ofAccount(String username) {
        return members.ofAccount(username).map(this::ofMember).orElseGet(() -> of(null, List.of(accounts.named(username))));
    }

    Archive ofMember(Member member) {
        return of(member, accounts.ofMember(member.id()));
    }

    private Archive of(@Nullable Member member, List<Account> logins) {
        List<Ticket> all = member == null ? List.of() : tickets.ofMember(member.id());
        Map<String, Path> kept = new LinkedHashMap<>();
        Story story = story(all);
        OwnData data = new OwnData(inventory.lab().name(), clock.instant(), member, logins.stream().map(Account::username).toList(),
                all.stream().map(ticket -> asked(ticket, story, kept)).toList(),
                logins.stream().flatMap(login -> events.by(login.username()).stream()).map(Export::step).toList());
        return new Archive(json.writerWithDefaultPrettyPrinter().writeValueAsBytes(data), kept);
    }

    /** What became of some tickets, by their numbers; of copies by the numbers of their runs. */
    private record Story(Map<Long, StoredModel> originals, Map<Long, List<SlicedFile>> sliced, List<Run> runs, Map<Long, List<RunCopy>> copies,
                         Map<Long, List<Event>> events) {
    }

    private Story story(List<Ticket> all) {
        List<Long> ids = all.stream().map(Ticket::id).toList();
        List<Run> attempts = runs.ofTickets(ids);
        return new Story(tickets.originals(all), slicedFiles.ofTickets(ids).stream().collect(Collectors.groupingBy(SlicedFile::ticketId)), attempts,
                runs.copies(attempts.stream().map(Run::id).toList()).stream().collect(Collectors.groupingBy(RunCopy::runId)), events.ofTickets(ids));
    }

    /** @param kept takes the files of the ticket, under the names they have in the archive */
    private Asked asked(Ticket ticket, Story story, Map<String, Path> kept) {
        Map<String, Path> own = new LinkedHashMap<>();
        String folder = "ticket-" + ticket.id() + "/";
        StoredModel original = story.originals().get(ticket.id());
        if (original != null) {
            put(own, folder + "as-it-came-" + base(original.name()), original.sha256());
        }
        put(own, folder + base(ticket.model().name()), ticket.model().sha256());
        story.sliced().getOrDefault(ticket.id(), List.of())
                .forEach(file -> put(own, folder + "sliced-" + file.id() + "-" + base(file.name()), file.sha256()));
        List<Run> attempts = story.runs().stream().filter(run -> run.tickets().contains(ticket.id())).toList();
        attempts.stream().filter(run -> run.photoType() != null).forEach(run -> put(own, folder + "photo-of-run-" + run.id()
                + run.photoType().replace("image/", "."), run.photoSha256()));
        Map<String, String> notes = new LinkedHashMap<>();
        for (Enclosure enclosure : enclosures.of(ticket)) {
            put(own, folder + "enclosed-" + enclosure.id() + "-" + base(enclosure.name()), enclosure.sha256());
            if (enclosure.text() != null) {
                notes.put(enclosure.name(), enclosure.text());
            }
        }
        kept.putAll(own);
        return new Asked(ticket.id(), ticket.model().name(), ticket.state().label(), ticket.createdAt(), ticket.request(), ticket.scalePercent(),
                Optional.ofNullable(ticket.charge().price()).map(Money::toString).orElse(""), ticket.charge().paidAt(),
                story.events().getOrDefault(ticket.id(), List.of()).stream().map(Export::step).toList(),
                attempts.stream().map(run -> attempt(run, ticket.id(), story)).toList(), notes, List.copyOf(own.keySet()));
    }

    private static Step step(Event event) {
        return new Step(event.about().ticket(), event.at(), event.what(), event.why());
    }

    private void put(Map<String, Path> own, String name, @Nullable String sha256) {
        if (sha256 != null && Files.exists(files.path(sha256))) {
            own.put(name, files.path(sha256));
        }
    }

    private static String base(String name) {
        return ModelArchive.baseName(name);
    }

    /** Of a run that was shared with others, only what was the ticket's. */
    private static Attempt attempt(Run run, long ticketId, Story story) {
        List<RunCopy> own = story.copies().getOrDefault(run.id(), List.of()).stream().filter(copy -> copy.ticketId() == ticketId).toList();
        return new Attempt(run.id(), run.printerName(), run.spoolName(), run.startedAt(), run.endedAt(), run.state().name().toLowerCase(),
                own.stream().map(copy -> copy.outcome().label()).toList(), own.stream().mapToDouble(RunCopy::grams).sum(),
                own.stream().mapToLong(RunCopy::seconds).sum() / 60.0, own.stream().map(RunCopy::cost).reduce(Money::plus).map(Money::toString).orElse(""),
                run.defects().stream().map(Defect::label).toList(), run.cause(), run.note());
    }
}
