package fabbrica.web;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The walls between the places of the workshop. */
class ArchitectureTest {

    private static final List<String> PLACES = List.of("counter", "ticket", "gauge", "plan", "floor", "stores", "ledger", "handbook",
            "account", "privacy");

    private final JavaClasses web = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS).importPackages("fabbrica.web");

    @Test
    void places_do_not_use_each_others_controllers_or_repositories() {
        for (String place : PLACES) {
            String here = "fabbrica.web." + place + "..";
            noClasses().that().resideOutsideOfPackage(here).should().dependOnClassesThat(
                    com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage(here)
                            .and(com.tngtech.archunit.core.domain.JavaClass.Predicates.simpleNameEndingWith("Repository")
                                    .or(com.tngtech.archunit.core.domain.JavaClass.Predicates
                                            .simpleNameEndingWith("Controller")))).check(web);
        }
    }

    @Test
    void places_do_not_depend_on_each_other_in_circles() {
        slices().matching("fabbrica.web.(*)..").should().beFreeOfCycles().check(web);
    }

    @Test
    void sql_stays_in_repositories_and_under_them_in_the_storage() {
        noClasses().that().haveSimpleNameNotEndingWith("Repository")
                .and().resideOutsideOfPackage("fabbrica.web.platform.storage").should().dependOnClassesThat()
                .resideInAnyPackage("java.sql..", "org.springframework.jdbc.core..").check(web);
    }

    @Test
    void what_all_places_share_knows_none_of_them() {
        noClasses().that().resideInAPackage("fabbrica.web.platform..").should().dependOnClassesThat()
                .resideInAnyPackage(PLACES.stream().map(place -> "fabbrica.web." + place + "..")
                        .toArray(String[]::new)).check(web);
    }
}
