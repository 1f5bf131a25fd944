package fabbrica.web.privacy;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.FabbricaApplication;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.Runs;
import fabbrica.web.platform.storage.FileReferenceRepository;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keeping;
import fabbrica.web.stores.Lab;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.transaction.support.TransactionTemplate;

/** A demo lab of its own as it grows older. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class RetentionTest {

    @TempDir
    private static Path folder;
    private static ConfigurableApplicationContext lab;
    private static int runs;

    @BeforeAll
    static void open() {
        lab = FabbricaApplication.application().run("--server.port=0", "--fabbrica.demo=true", "--fabbrica.data=" + folder);
        runs = the(Runs.class).runs(RunFilter.ALL, null, 1000).size();
    }

    @AfterAll
    static void close() {
        lab.close();
    }

    @Test
    @Order(1)
    void for_good_is_for_good() {
        Set<String> before = named();
        keep(Keeping.FOR_GOOD, 36_000);
        assertThat(named()).isEqualTo(before);
        assertThat(the(Members.class).search("")).hasSize(6);
    }

    @Test
    @Order(2)
    void models_and_photos_stay_until_their_days_are_over() {
        Set<String> before = named();
        keep(new Keeping(365, 365, 365, 3, 30), 300);
        assertThat(named()).isEqualTo(before);
        assertThat(the(Members.class).search("")).hasSize(6);
    }

    @Test
    @Order(3)
    void models_of_tickets_that_are_over_go_and_those_still_to_be_printed_stay() {
        List<Ticket> over = in(TicketState.HANDED_OUT, TicketState.SENT_BACK, TicketState.DECLINED);
        assertThat(over).isNotEmpty().allMatch(ticket -> ticket.model().isKept());
        keep(new Keeping(30, 30, 0, 3, 30), 31);
        assertThat(in(TicketState.HANDED_OUT, TicketState.SENT_BACK, TicketState.DECLINED)).hasSameSizeAs(over)
                .noneMatch(ticket -> ticket.model().isKept());
        List<Ticket> open = in(TicketState.NEW, TicketState.ACCEPTED, TicketState.QUEUED, TicketState.RUNNING, TicketState.FAILED,
                TicketState.PRINTED);
        assertThat(open).isNotEmpty().allMatch(ticket -> ticket.model().isKept());
        assertThat(open).allSatisfy(ticket -> assertThat(the(FileStore.class).path(ticket.model().sha256())).exists());
        assertThat(folder.resolve("files").toFile().list()).containsExactlyInAnyOrder(named().toArray(String[]::new));
    }

    @Test
    @Order(4)
    void members_for_whom_nothing_is_to_be_done_are_forgotten_and_the_runs_stay() {
        List<Member> before = the(Members.class).search("");
        Tickets tickets = the(Tickets.class);
        before.stream().map(member -> tickets.ofMember(member.id())).filter(own -> own.stream().noneMatch(RetentionTest::isPrinting))
                .findFirst().orElseThrow().stream().filter(ticket -> !ticket.state().isOver())
                .forEach(ticket -> tickets.withdraw(ticket, "moved away", "mira"));
        keep(new Keeping(0, 0, 100, 3, 30), 101);
        for (Member member : before) {
            boolean waits = tickets.ofMember(member.id()).stream().anyMatch(ticket -> !ticket.state().isOver());
            assertThat(the(Members.class).member(member.id()).orElseThrow().forgotten()).as(member.name()).isEqualTo(!waits);
        }
        assertThat(the(Members.class).search("")).as("some wait").isNotEmpty().hasSizeLessThan(before.size());
        assertThat(the(Runs.class).runs(RunFilter.ALL, null, 1000)).hasSize(runs);
    }

    private static boolean isPrinting(Ticket ticket) {
        return ticket.state() == TicketState.RUNNING;
    }

    /** Lets the lab's time of keeping pass as if it were so many days later. */
    private static void keep(Keeping keeping, int days) {
        Inventory inventory = the(Inventory.class);
        Lab now = inventory.lab();
        inventory.change(now, new Lab(now.name(), now.currency(), now.zone(), now.limitMb(), now.tariff(), now.policy(), keeping, now.round()), "mira");
        new Retention(the(PrivacyRepository.class), the(Forgetting.class), the(Members.class), inventory, the(FileStore.class),
                Clock.offset(the(Clock.class), Duration.ofDays(days)), the(TransactionTemplate.class)).letGo();
    }

    private static List<Ticket> in(TicketState... states) {
        return the(Tickets.class).inStates(states);
    }

    private static Set<String> named() {
        return the(FileReferenceRepository.class).all();
    }

    private static <T> T the(Class<T> service) {
        return lab.getBean(service);
    }
}
