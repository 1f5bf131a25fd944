package fabbrica.web.privacy;

import static org.assertj.core.api.Assertions.assertThat;

import java.text.Normalizer;
import java.util.List;
import org.junit.jupiter.api.Test;

class MentionsTest {

    private static final Mentions ZOE = Mentions.andInPart(List.of("Zoë de Marl", "Iris Marl-Oduya"));

    @Test
    void names_go_in_full_and_in_part_and_in_whatever_case() {
        assertThat(ZOE.struckFrom("for ZOË DE MARL, says Iris; ask marl")).isEqualTo(
                "for (name removed), says (name removed); ask (name removed)");
        assertThat(ZOE.struckFrom("Zoë's tag, iris_marl-oduya.stl")).isEqualTo("(name removed)'s tag, (name removed).stl");
    }

    @Test
    void words_that_only_contain_a_name_and_particles_stay() {
        assertThat(ZOE.struckFrom("a marlin from de van, irises around it")).isEqualTo("a marlin from de van, irises around it");
    }

    @Test
    void a_letter_and_its_accent_are_one_however_they_are_composed() {
        String apart = Normalizer.normalize("tag of Zoë", Normalizer.Form.NFD);
        assertThat(apart).isNotEqualTo("tag of Zoë");
        assertThat(ZOE.struckFrom(apart)).isEqualTo("tag of (name removed)");
        String unconcerned = Normalizer.normalize("übung", Normalizer.Form.NFD);
        assertThat(ZOE.struckFrom(unconcerned)).isSameAs(unconcerned);
    }

    @Test
    void scripts_without_spaces_are_searched_inside_of_words() {
        assertThat(Mentions.inFull(List.of("林小雨")).struckFrom("给林小雨的钥匙牌")).isEqualTo("给(name removed)的钥匙牌");
    }

    @Test
    void signs_in_a_name_are_taken_as_they_are_and_no_name_strikes_nothing() {
        assertThat(Mentions.inFull(List.of("A.* (old)")).struckFrom("all of A.* (old) here")).isEqualTo("all of (name removed) here");
        assertThat(Mentions.andInPart(List.of()).struckFrom("anything")).isEqualTo("anything");
    }
}
