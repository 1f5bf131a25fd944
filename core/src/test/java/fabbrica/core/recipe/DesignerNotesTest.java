package fabbrica.core.recipe;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DesignerNotesTest {

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "-", value = {
        "Print without supports.|false|-|-",
        "No supports needed, 0.2 mm layers|false|-|0.2",
        "supports: none; raft: yes|false|RAFT|-",
        "Needs supports under the arms. Layer height 0.12|true|-|0.12",
        "I used a brim, no raft|-|BRIM|-",
        "support-free design|false|-|-",
        "You don't need any support here|false|-|-",
        "Painted in blue|-|-|-"})
    void what_a_designer_writes_is_understood_as_far_as_it_goes(String text, Boolean supports, Adhesion adhesion,
                                                               Double layer) {
        DesignerNotes notes = DesignerNotes.of(text);
        assertThat(notes.supports()).isEqualTo(Optional.ofNullable(supports));
        assertThat(notes.adhesion()).isEqualTo(Optional.ofNullable(adhesion));
        assertThat(notes.layerHeightMm()).isEqualTo(Optional.ofNullable(layer));
    }
}
