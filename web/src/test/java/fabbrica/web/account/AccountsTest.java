package fabbrica.web.account;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.web.DemoLabTest;
import fabbrica.web.PlainBrowser;
import fabbrica.web.platform.Refusal;
import fabbrica.web.upkeep.Upkeep;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class AccountsTest {

    private static final String PASSWORD = "lanterns drift uphill";

    @LocalServerPort
    private int port;
    @Autowired
    private Accounts accounts;
    @Autowired
    private MockMvc mvc;

    @Test
    void closing_an_account_ends_its_sessions_until_it_is_opened_again() throws Exception {
        PlainBrowser hers = signedUp("ilka");
        assertThat(hers.get("/counter").statusCode()).isEqualTo(200);
        mvc.perform(send("/accounts/" + id("ilka") + "/close"));
        assertThat(hers.get("/counter").headers().firstValue("Location").orElse("")).contains("/sign-in");
        assertThat(signIn(browser(), "ilka", PASSWORD)).contains("error");
        mvc.perform(send("/accounts/" + id("ilka") + "/reopen"));
        assertThat(signIn(browser(), "ilka", PASSWORD)).doesNotContain("sign-in");
    }

    @Test
    void a_reset_takes_the_password_and_its_code_sets_a_new_one_once() throws Exception {
        PlainBrowser his = signedUp("odo");
        String code = accounts.reset(id("odo"), "mira");
        assertThat(his.get("/counter").statusCode()).isEqualTo(302);
        assertThat(signIn(browser(), "odo", PASSWORD)).contains("error");
        String next = "nine quiet harbours";
        assertThat(setWithCode("odo", "WRONGCODE9", next).body()).contains("do not belong together");
        assertThat(setWithCode("Odo", code.toLowerCase(), next).headers().firstValue("Location").orElseThrow()).endsWith("/sign-in?set");
        assertThat(setWithCode("odo", code, "another one entirely").body()).contains("the code was used");
        assertThat(signIn(browser(), "ODO", next)).doesNotContain("sign-in");
    }

    @Test
    void the_shell_resets_a_password_while_the_server_runs_when_nobody_else_can() throws Exception {
        signedUp("vesna");
        ByteArrayOutputStream told = new ByteArrayOutputStream();
        assertThat(Upkeep.run(new String[] {"reset-password", "Vesna"}, Path.of("target/demo-lab"), new PrintStream(told), System.err)).isZero();
        Matcher code = Pattern.compile("days: ([A-Z0-9]+)").matcher(told.toString());
        assertThat(code.find()).isTrue();
        assertThat(signIn(browser(), "vesna", PASSWORD)).contains("error");
        assertThat(setWithCode("vesna", code.group(1), "nine loud harbours").headers().firstValue("Location").orElseThrow()).endsWith("/sign-in?set");
        assertThat(signIn(browser(), "vesna", "nine loud harbours")).doesNotContain("sign-in");
        assertThat(Upkeep.run(new String[] {"reset-password", "nobody"}, Path.of("target/demo-lab"), System.out, new PrintStream(told))).isEqualTo(1);
        assertThat(told.toString()).contains("There is no open account “nobody”");
    }

    @Test
    void people_change_their_own_password_and_have_to_know_the_present_one() throws Exception {
        PlainBrowser hers = signedUp("runa"), forgotten = browser();
        forgotten.signIn("runa", PASSWORD);
        assertThat(hers.submit("/password", "present=wrong&next=" + encoded("four green umbrellas")).body())
                .contains("not your present password");
        assertThat(hers.submit("/password", "present=" + encoded(PASSWORD) + "&next=qwertyuiop").body())
                .contains("among the first that are guessed");
        assertThat(hers.submit("/password", "present=" + encoded(PASSWORD) + "&next=" + encoded("four green umbrellas")).statusCode())
                .isEqualTo(302);
        assertThat(hers.get("/counter").statusCode()).as("where it was changed").isEqualTo(200);
        assertThat(forgotten.get("/counter").statusCode()).as("signed in elsewhere").isEqualTo(302);
        assertThat(signIn(browser(), "runa", "four green umbrellas")).doesNotContain("sign-in");
    }

    @Test
    void the_last_coordinator_stays() {
        accounts.all().stream().filter(account -> account.role() == Role.COORDINATOR && !account.username().equals("mira"))
                .forEach(other -> accounts.close(other.id(), "mira"));
        assertThatThrownBy(() -> accounts.close(id("mira"), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("only coordinator left");
        accounts.add("second", PASSWORD, Role.COORDINATOR, "second", null, "mira");
        accounts.close(id("mira"), "mira");
        accounts.reopen(id("mira"), "mira");
        accounts.close(id("second"), "mira");
    }

    @Test
    void names_are_one_whatever_their_case() throws Exception {
        assertThat(signIn(browser(), "MIRA", "demo-coordinator")).doesNotContain("sign-in");
        assertThatThrownBy(() -> accounts.add("Mira", PASSWORD, Role.HELPER, "x", null, "mira")).hasMessageContaining("is taken");
        assertThat(mvc.perform(open("/accounts")).andReturn().getResponse().getContentAsString()).contains("mira", "● open");
    }

    @Test
    void who_fails_too_often_waits_but_not_the_owner_on_a_browser_of_hers() throws Exception {
        PlainBrowser hers = signedUp("freya");
        PlainBrowser pupil = browser();
        String answer = "";
        for (int tries = 0; tries < 8 && !answer.contains("wait"); tries++) {
            answer = signIn(pupil, "freya", "guess number " + tries);
        }
        assertThat(answer).contains("/sign-in?wait=");
        assertThat(signIn(hers, "freya", PASSWORD)).doesNotContain("sign-in");
    }

    @Test
    void names_of_earlier_versions_that_differ_by_case_only_are_told_apart(@TempDir java.nio.file.Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db"));
        Flyway.configure().dataSource(source).target("6").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        for (String name : new String[] {"Ana", "ana", "bo"}) {
            jdbc.sql("insert into account (username, password, role, name) values (?, 'x', 'COORDINATOR', ?)").params(name, name).update();
        }
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select username from account order by id").query(String.class).list()).containsExactly("Ana", "ana-2", "bo");
    }

    private PlainBrowser signedUp(String name) throws Exception {
        accounts.add(name, PASSWORD, Role.HELPER, name, null, "mira");
        PlainBrowser browser = browser();
        browser.signIn(name, PASSWORD);
        return browser;
    }

    private PlainBrowser browser() {
        return new PlainBrowser("http://localhost:" + port);
    }

    /** Where it leads. */
    private static String signIn(PlainBrowser browser, String name, String password) throws Exception {
        return browser.submit("/sign-in", "username=" + name + "&password=" + encoded(password)).headers().firstValue("Location").orElse("");
    }

    private HttpResponse<String> setWithCode(String name, String code, String next) throws Exception {
        return browser().submit("/sign-in/code", "username=" + name + "&code=" + code + "&next=" + encoded(next));
    }

    private long id(String username) {
        return accounts.all().stream().filter(account -> account.username().equals(username)).findFirst().orElseThrow().id();
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }
}
