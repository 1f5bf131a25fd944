package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;

import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class TemplatesTest {

    private static final Set<String> OF_FORMS = Set.of("form", "v", "problems", "question");
    private static final Path TEMPLATES = Path.of("src/main/resources/templates");

    @Autowired
    private MockMvc mvc;

    @Test
    void looks_stand_in_the_style_sheet_and_no_page_may_bring_its_own() throws Exception {
        assertThat(holding("style=\"")).isEmpty();
        assertThat(holding("<style|<script(?! type=\"importmap\")(?![^>]*src=)|[\\s\"]on[a-z]+=\"")).isEmpty();
        mvc.perform(Steps.open("/counter")).andExpect(header().string("Content-Security-Policy", not(containsString("unsafe"))));
    }

    /** Templates show what a page's record says. Names of states, moments, static methods and new objects are for rules. */
    @ParameterizedTest
    @ValueSource(strings = {"\\bT\\(", "\\$\\{[^}\"]*\\bnew ", "name\\(\\) *[!=]=", "\\.is(After|Before)\\(", "\\.stream\\(", "\\$\\{[^}\"]*\\bMath\\b", "@\\w+Repository",
        "\\$\\{[^}\"]*[a-z)] / [a-z]", "\\bcode(\\(\\))? *[!=]= *'"})
    void no_rule_stands_in_a_template(String forbidden) throws IOException {
        assertThat(holding(forbidden)).isEmpty();
    }

    /** A fragment is put in place before a condition beside it is asked. */
    @Test
    void no_condition_stands_where_it_is_not_asked() throws IOException {
        assertThat(holding("<[^>]*\\bth:(if|unless)=\"[^\"]*\"[^>]*\\bth:(replace|insert)=")).isEmpty();
    }

    /** What a page shows is one record, beside what every form has. */
    @Test
    void pages_are_not_put_together_from_loose_values() throws IOException {
        Pattern added = Pattern.compile("addAttribute\\(\"(\\w+)\"");
        try (Stream<Path> all = Files.walk(Path.of("src/main/java"))) {
            for (Path file : all.filter(each -> each.toString().endsWith("Controller.java")).toList()) {
                for (String method : read(file).split("\n    }\n")) {
                    assertThat(added.matcher(method).results().map(found -> found.group(1)).filter(name -> !OF_FORMS.contains(name)).distinct())
                            .as(file + method).hasSizeLessThanOrEqualTo(1);
                }
            }
        }
    }

    private static List<Path> holding(String pattern) throws IOException {
        Pattern looked = Pattern.compile(pattern);
        try (Stream<Path> all = Files.walk(TEMPLATES)) {
            return all.filter(file -> file.toString().endsWith(".html")).filter(file -> looked.matcher(read(file)).find()).toList();
        }
    }

    private static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
