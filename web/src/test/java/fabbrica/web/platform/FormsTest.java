package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The forms of all pages. */
class FormsTest {

    private static final Pattern FORM = Pattern.compile("<form\\b[^>]*method=\"post\".*?</form>", Pattern.DOTALL);
    /** Steps that change nothing twice: signing in and out, passwords, accounts, the first visit, removing, a run that ends once,
     * what a machine is told. */
    private static final List<String> ONCE_ANYWAY = List.of("/sign-in", "/sign-out", "/setup", "/members/accounts", "/accounts/{id}/",
            "/password}", "/remove(", "/machines/{id}(",
            "/floor/runs/{id}/end", "/counter/hand-overs/{id}", "/members/list}", "/floor/draft}");
    /** Its marks stand beside the ticks on the strips. */
    private static final String OF_MANY = "/counter/decide";

    @Test
    void every_form_that_changes_something_says_what_it_was_made_from_or_that_it_is_new() throws IOException {
        int forms = 0;
        try (Stream<Path> templates = Files.walk(Path.of("src/main/resources/templates"))) {
            for (Path template : templates.filter(path -> path.toString().endsWith(".html")).toList()) {
                Matcher form = FORM.matcher(Files.readString(template));
                while (form.find()) {
                    forms++;
                    assertThat(form.group()).as(template.toString()).matches(text -> text.contains(OF_MANY) || ONCE_ANYWAY.stream().anyMatch(text::contains)
                            || text.contains("parts :: seen(") || text.contains("parts :: marks(")
                            || text.contains("name=\"seen\"") || text.contains("name=\"token\""));
                }
            }
        }
        assertThat(forms).isGreaterThan(25);
    }
}
