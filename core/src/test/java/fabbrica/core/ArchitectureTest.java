package fabbrica.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.junit.jupiter.api.Test;

/** The walls of the core: the flow runs one way, and nothing of the outside world comes in. */
class ArchitectureTest {

    private static final List<String> FLOW = List.of("units", "mesh", "inspect", "bed", "recipe", "toolpath", "motion",
            "gcode", "estimate", "judge", "printing", "trade", "schedule", "run", "learn", "ledger");

    private final JavaClasses core = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS).importPackages("fabbrica.core");

    @Test
    void a_package_imports_only_packages_to_its_left() {
        for (int i = 0; i < FLOW.size(); i++) {
            String[] right = FLOW.subList(i + 1, FLOW.size()).stream().map(name -> "fabbrica.core." + name + "..")
                    .toArray(String[]::new);
            if (right.length > 0) {
                noClasses().that().resideInAPackage("fabbrica.core." + FLOW.get(i) + "..").should()
                        .dependOnClassesThat().resideInAnyPackage(right).allowEmptyShould(true).check(core);
            }
        }
    }

    @Test
    void the_core_knows_no_framework_no_database_no_page_and_no_disk() {
        noClasses().should().dependOnClassesThat().resideInAnyPackage("org.springframework..", "java.sql..",
                "jakarta..", "java.nio.file..", "java.net..").check(core);
    }

    @Test
    void every_package_says_what_it_is_and_that_nothing_in_it_is_null_unmarked() {
        assertThat(core.getPackage("fabbrica.core").getSubpackagesInTree()).filteredOn(place -> !place.getClasses().isEmpty())
                .allMatch(place -> place.isAnnotatedWith(NullMarked.class));
    }

    @Test
    void the_core_reads_no_clock() {
        noClasses().should().callMethod(System.class, "currentTimeMillis").orShould()
                .callMethod(java.time.Instant.class, "now").orShould().callMethod(java.time.LocalDate.class, "now")
                .check(core);
    }
}
