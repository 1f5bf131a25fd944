package fabbrica.web.counter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.ticket.Earlier;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class IntakeTest {

    @Autowired
    private Inspections inspections;
    @Autowired
    private Intake intake;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Inventory inventory;

    @Test
    void a_readable_file_gets_its_ticket_at_once() throws IOException {
        HandOver taken = take("C:\\parts\\hook.stl", Files3d.stl(Shapes.box(11, 12, 13)));
        long ticket = taken.pieces().getFirst().ticketId();
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.NEW);
        assertThat(tickets.ticket(ticket).model().name()).isEqualTo("hook.stl");
        assertThat(inspections.of(tickets.ticket(ticket).part()).triangles()).isEqualTo(12);
        assertThat(tickets.history(ticket)).hasSize(1);
    }

    @Test
    void a_form_sent_twice_is_one_hand_over() throws IOException {
        String token = UUID.randomUUID().toString();
        byte[] stl = Files3d.stl(Shapes.box(5, 6, 7));
        HandOver first = intake.take("a.stl", stl.length, new ByteArrayInputStream(stl), token, "mira");
        HandOver second = intake.take("a.stl", stl.length, new ByteArrayInputStream(stl), token, "mira");
        assertThat(second).isEqualTo(first);
    }

    @Test
    void a_file_that_came_before_waits_until_somebody_decides_and_says_what_became_of_it() throws IOException {
        byte[] stl = Files3d.stl(Shapes.box(15, 6, 7));
        long first = take("peg.stl", stl).pieces().getFirst().ticketId();
        tickets.decline(tickets.ticket(first), "too fiddly", "mira");
        HandOver again = take("the same peg.stl", stl);
        assertThat(again.pieces()).singleElement().matches(HandOver.Piece::isOpen);
        assertThat(intake.unsorted()).extracting(HandOver::id).contains(again.id());
        String hash = again.pieces().getFirst().part().sha256();
        assertThat(tickets.earlier(List.of(hash)).get(hash)).singleElement().satisfies(earlier -> {
            assertThat(earlier.ticketId()).isEqualTo(first);
            assertThat(earlier.last().what()).isEqualTo("declined");
            assertThat(earlier.last().why()).isEqualTo("too fiddly");
        });
        long second = intake.choose(again.id(), List.of(again.pieces().getFirst().modelId()), "mira").getFirst();
        assertThat(tickets.earlier(List.of(hash)).get(hash)).extracting(Earlier::ticketId).containsExactly(second, first);
    }

    @Test
    void an_archive_with_several_models_waits_to_be_sorted() throws IOException {
        HandOver taken = take("set.zip", Files3d.zip("left.stl", Files3d.stl(Shapes.box(20, 5, 5)), "readme.txt",
                "hello".getBytes(StandardCharsets.UTF_8), "right.stl", Files3d.stl(Shapes.box(20, 5, 6)),
                "broken.stl", new byte[10]));
        assertThat(taken.pieces()).extracting(HandOver.Piece::name)
                .containsExactly("left.stl", "right.stl", "broken.stl");
        assertThat(taken.pieces()).extracting(HandOver.Piece::isOpen).containsExactly(true, true, false);
        assertThat(intake.unsorted()).extracting(HandOver::id).contains(taken.id());
        List<Long> opened = intake.choose(taken.id(), taken.pieces().stream().map(HandOver.Piece::modelId).toList(),
                "mira");
        assertThat(opened).hasSize(2);
        assertThat(intake.unsorted()).extracting(HandOver::id).doesNotContain(taken.id());
    }

    @Test
    void an_archive_with_one_model_is_as_good_as_the_model() throws IOException {
        HandOver taken = take("one.zip", Files3d.zip("../../only.stl", Files3d.stl(Shapes.box(9, 9, 8))));
        assertThat(taken.pieces().getFirst().ticketId()).isNotNull();
        assertThat(taken.pieces().getFirst().name()).isEqualTo("only.stl");
    }

    @Test
    void what_cannot_be_read_is_refused_and_leaves_nothing_behind() throws IOException {
        byte[] whole = Files3d.stl(Shapes.box(1, 2, 3));
        long files = storedFiles();
        int waiting = tickets.inStates(TicketState.NEW).size();
        assertRefused("empty.stl", new byte[0], "The file is empty");
        assertRefused("cut.stl", java.util.Arrays.copyOf(whole, 300), "was cut short");
        assertRefused("letter.stl", "Dear coordinator, ".repeat(20).getBytes(StandardCharsets.UTF_8), "announces");
        assertRefused("notes.zip", Files3d.zip("a.txt", new byte[5]), "none of them a model");
        assertThat(storedFiles()).isEqualTo(files);
        assertThat(tickets.inStates(TicketState.NEW)).hasSize(waiting);
    }

    @Test
    void a_file_over_the_labs_limit_is_refused_with_the_limit() {
        Lab lab = inventory.lab();
        inventory.change(lab, new Lab(lab.name(), lab.currency(), lab.zone(), 1), "mira");
        try {
            assertRefused("big.stl", new byte[1_500_000], "The file has 1.4 MB; the limit is 1 MB.");
            assertRefused("bomb.zip", Files3d.zip("zeros.stl", new byte[3_000_000]),
                    "unpacks to more than the limit of 1 MB");
        } finally {
            inventory.change(inventory.lab(), lab, "mira");
        }
    }

    private void assertRefused(String name, byte[] content, String reason) {
        assertThatThrownBy(() -> take(name, content)).isInstanceOf(Refusal.class).hasMessageContaining(reason);
    }

    private HandOver take(String name, byte[] content) throws IOException {
        return intake.take(name, content.length, new ByteArrayInputStream(content), UUID.randomUUID().toString(),
                "mira");
    }

    private static long storedFiles() throws IOException {
        try (Stream<Path> files = Files.list(Path.of("target/demo-lab/files"))) {
            return files.count();
        }
    }
}
