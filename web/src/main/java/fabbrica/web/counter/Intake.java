package fabbrica.web.counter;

import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.platform.storage.FileStore.Stored;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Enclosure;
import fabbrica.web.ticket.Enclosures;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Revision;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.io.InputStream;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes a file over the counter: stores it, looks into archives, measures every model, and only then writes it down, in
 * one transaction. Whatever happens before leaves no trace on any page.
 */
@Service
public class Intake {

    /** Of larger archives no mesh is kept at hand: it would drive out those that others work with. */
    private static final int MOST_HELD = 4;

    private final FileStore files;
    private final Meshes meshes;
    private final SlicedParts sliced;
    private final HandOverRepository repository;
    private final Inventory inventory;
    private final Tickets tickets;
    private final Members members;
    private final Enclosures enclosures;
    private final Clock clock;
    private final TransactionTemplate transaction;

    Intake(FileStore files, Meshes meshes, SlicedParts sliced, HandOverRepository repository, Inventory inventory, Tickets tickets, Members members, Enclosures enclosures, Clock clock,
           TransactionTemplate transaction) {
        this.files = files;
        this.meshes = meshes;
        this.sliced = sliced;
        this.repository = repository;
        this.inventory = inventory;
        this.tickets = tickets;
        this.members = members;
        this.enclosures = enclosures;
        this.clock = clock;
        this.transaction = transaction;
    }

    /**
     * Takes a file in. A file with one readable model gets its ticket at once, unless another ticket had the same file: then somebody decides.
     *
     * @param token made new for every form, so that a form sent twice is one hand-over
     * @throws Refusal with the reason when there is no readable model in it
     */
    public HandOver take(String fileName, long bytes, InputStream content, String token, String who)
            throws IOException {
        return take(fileName, bytes, content, token, who, opened -> { });
    }

    /** @param allowed throws the reason when what was found is not to be taken in */
    private HandOver take(String fileName, long bytes, InputStream content, String token, String who, Consumer<Opened> allowed) throws IOException {
        Optional<Long> earlier = repository.withToken(token);
        if (earlier.isPresent()) {
            return handOver(earlier.get());
        }
        long limit = inventory.lab().limitBytes();
        if (bytes > limit) {
            throw new Refusal(ModelFiles.overLimit(bytes, limit));
        }
        String name = ModelArchive.baseName(fileName == null ? "" : fileName);
        try (FileStore.Batch batch = files.batch()) {
            Opened opened = inspect(name, content, limit, batch);
            allowed.accept(opened);
            return writeDown(name, opened, token, who);
        }
    }

    /** What a member hands in herself is looked at by nobody before it is a ticket: a file made for one printer is brought to the counter. */
    private static void requireModels(Opened opened) {
        if (opened.models().stream().anyMatch(file -> file.format() == ModelFormat.GCODE)) {
            throw new Refusal("That file is made for one printer. Hand in the model it was made from, or bring it to the counter.");
        }
    }

    /**
     * Takes in what a member hands in herself: every model that can be read becomes a ticket in her name.
     *
     * @return its tickets
     * @throws Refusal as {@link #take} does
     */
    public List<Long> takeFrom(long memberId, String fileName, long bytes, InputStream content, String token, String who) throws IOException {
        HandOver handOver = take(fileName, bytes, content, token, who, Intake::requireModels);
        return transaction.execute(status -> handOver.pieces().stream().filter(piece -> piece.isOpen() || piece.ticketId() != null).map(piece -> {
            long id = piece.ticketId() != null ? piece.ticketId() : tickets.open(piece.modelId(), piece.unit(), who);
            Ticket ticket = tickets.ticket(id);
            if (ticket.request().memberId() == null) {
                tickets.saveRequest(ticket, ticket.request().of(memberId));
            }
            return id;
        }).toList());
    }

    /**
     * Stores a model that takes another's place on its ticket.
     *
     * @param use what is done with it while it is kept from being tidied away
     * @throws Refusal when it cannot be read, or is an archive with several
     */
    public void another(String fileName, long bytes, InputStream content, String madeBy, Consumer<Revision> use) throws IOException {
        long limit = inventory.lab().limitBytes();
        if (bytes > limit) {
            throw new Refusal(ModelFiles.overLimit(bytes, limit));
        }
        String name = ModelArchive.baseName(fileName);
        try (FileStore.Batch batch = files.batch()) {
            Opened opened = inspect(name, content, limit, batch);
            requireModels(opened);
            List<ReadFile> inspected = opened.models();
            ReadFile file = inspected.getFirst();
            if (inspected.size() > 1) {
                throw new Refusal("There are several models in this archive. Bring the one that is meant.");
            }
            if (file.problem() != null || file.format() == null) {
                throw new Refusal(String.valueOf(file.problem()));
            }
            use.accept(new Revision(file.name(), file.stored().sha256(), file.stored().bytes(), file.format(), madeBy));
        }
    }

    private HandOver writeDown(String name, Opened opened, String token, String who) {
        List<ReadFile> inspected = opened.models();
        if (inspected.stream().allMatch(file -> file.problem() != null)) {
            throw new Refusal(inspected.size() == 1 ? String.valueOf(inspected.getFirst().problem())
                    : "None of the %d models in this archive can be read. The first: %s".formatted(inspected.size(),
                            inspected.getFirst().problem()));
        }
        return transaction.execute(status -> {
            Optional<Long> meanwhile = repository.withToken(token);
            if (meanwhile.isPresent()) {
                return handOver(meanwhile.get());
            }
            long id = repository.insert(name, token, clock.instant());
            enclosures.keep(id, opened.beside());
            for (ReadFile file : inspected) {
                long model = repository.insert(id, file);
                if (inspected.size() == 1 && tickets.earlier(List.of(file.stored().sha256())).isEmpty()) {
                    tickets.open(model, file.unit(), who);
                }
            }
            return handOver(id);
        });
    }

    public HandOver handOver(long id) {
        return repository.handOver(id).orElseThrow();
    }

    public List<HandOver> unsorted() {
        return repository.unsorted();
    }

    /** Opens a ticket for each chosen model of a hand-over. */
    public List<Long> choose(long handOverId, List<Long> modelIds, String who) {
        HandOver handOver = handOver(handOverId);
        List<HandOver.Piece> chosen = handOver.pieces().stream().filter(HandOver.Piece::isOpen)
                .filter(piece -> modelIds.contains(piece.modelId())).toList();
        if (chosen.isEmpty()) {
            throw new Refusal("Choose at least one model that can be read and has no ticket yet.");
        }
        return transaction.execute(status -> chosen.stream()
                .map(piece -> tickets.open(piece.modelId(), piece.unit(), who)).toList());
    }

    /** Opens and accepts a ticket for each model with a member; members without a number are added. */
    public List<Long> takeIn(HandOver handOver, Map<Long, Member> named, Purpose purpose, String source, String who) {
        return transaction.execute(status -> {
            List<Long> opened = new ArrayList<>();
            for (HandOver.Piece piece : handOver.pieces()) {
                Member member = named.get(piece.modelId());
                if (member != null) {
                    long memberId = member.id() != 0 ? member.id() : members.named(member.name()).map(Member::id)
                            .orElseGet(() -> members.add(member, who));
                    long ticket = tickets.open(piece.modelId(), piece.unit(), who);
                    tickets.accept(tickets.ticket(ticket), new Request(memberId, purpose, null, "", "", 1, source, ""), who);
                    opened.add(ticket);
                }
            }
            return opened;
        });
    }

    /** What was found in a file: its models, and what came beside them. */
    private record Opened(List<ReadFile> models, List<Enclosure> beside) {
    }

    private Opened inspect(String name, InputStream content, long limit, FileStore.Batch batch) throws IOException {
        Stored stored = batch.store(content);
        ModelSource source = files.source(name, stored.sha256());
        if (!ModelArchive.isArchive(source)) {
            return new Opened(List.of(inspect(name, stored, limit, true)), List.of());
        }
        List<FileStore.Writing> writings = new ArrayList<>();
        List<Enclosing> others = new ArrayList<>();
        try {
            List<String> names = ModelArchive.unpack(source, limit, piece -> {
                writings.add(batch.write());
                return writings.getLast().stream();
            }, other -> {
                others.add(new Enclosing(other));
                return others.getLast().stream();
            });
            List<ReadFile> inspected = new ArrayList<>();
            for (int i = 0; i < names.size(); i++) {
                inspected.add(inspect(names.get(i), writings.get(i).finish(), limit, names.size() <= MOST_HELD));
            }
            List<Enclosure> beside = new ArrayList<>();
            for (Enclosing other : others) {
                other.kept(batch).ifPresent(beside::add);
            }
            return new Opened(inspected, beside);
        } catch (ModelFormatException e) {
            throw new Refusal(String.valueOf(e.getMessage()));
        }
    }

    /** @param held whether its mesh is kept at hand, or is read again when somebody asks for it */
    private ReadFile inspect(String name, Stored stored, long limit, boolean held) {
        if (sliced.isOne(stored.sha256())) {
            return new ReadFile(name, stored, ModelFormat.GCODE, LengthUnit.MILLIMETRE, sliced.refusal(stored.sha256()));
        }
        return switch (ModelFiles.read(files.source(name, stored.sha256()), limit)) {
            case ReadModel model -> {
                if (held) {
                    meshes.keep(stored.sha256(), model.mesh());
                }
                yield new ReadFile(name, stored, model.format(), model.declaredUnit().orElse(LengthUnit.MILLIMETRE), null);
            }
            case UnreadableModel(String reason) -> new ReadFile(name, stored, null, LengthUnit.MILLIMETRE, reason);
        };
    }
}
