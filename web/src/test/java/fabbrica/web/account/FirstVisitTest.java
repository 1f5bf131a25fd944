package fabbrica.web.account;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import fabbrica.web.stores.Inventory;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionTemplate;

class FirstVisitTest {

    private final Accounts accounts = mock(Accounts.class);
    private final FirstVisit firstVisit = new FirstVisit(accounts, mock(Inventory.class), new TransactionTemplate());

    @Test
    void only_the_code_from_the_terminal_is_accepted_and_only_while_nobody_has_an_account() {
        String code = printedCode();
        assertThat(code).hasSize(10);
        assertThat(firstVisit.accepts("WRONGCODE0")).isFalse();
        assertThat(firstVisit.accepts(" " + code.toLowerCase())).isTrue();
        when(accounts.any()).thenReturn(true);
        assertThat(firstVisit.accepts(code)).isFalse();
    }

    @Test
    void every_start_has_a_code_of_its_own() {
        assertThat(new FirstVisit(accounts, mock(Inventory.class), new TransactionTemplate()).accepts(printedCode())).isFalse();
    }

    private String printedCode() {
        PrintStream terminal = System.out;
        ByteArrayOutputStream printed = new ByteArrayOutputStream();
        System.setOut(new PrintStream(printed));
        try {
            firstVisit.announce();
        } finally {
            System.setOut(terminal);
        }
        String line = printed.toString().strip();
        return line.substring(line.lastIndexOf(' ') + 1);
    }
}
