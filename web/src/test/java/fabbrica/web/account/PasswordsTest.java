package fabbrica.web.account;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.web.platform.Refusal;
import java.util.List;
import me.gosimple.nbvcxz.resources.ConfigurationBuilder;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PasswordsTest {

    /** The first six are among the most common of published lists of leaked passwords (value from memory). */
    @ParameterizedTest
    @ValueSource(strings = {"password123", "1234567890", "qwertyuiop", "iloveyou12", "Passw0rd2024", "zxcvbnm123", "tomastomas",
            "Tomas-tomas-1", "fabbrica2026"})
    void what_is_guessed_first_is_not_taken(String password) {
        assertThatThrownBy(() -> Passwords.check(password, "tomas")).isInstanceOf(Refusal.class)
                .hasMessageContaining("among the first that are guessed");
    }

    @ParameterizedTest
    @ValueSource(strings = {"correct horse battery", "tr0ub4dor&3 pale", "три зелёных фонаря", "lanterns drift uphill"})
    void words_that_do_not_belong_together_are(String password) {
        assertThatCode(() -> Passwords.check(password, "tomas")).doesNotThrowAnyException();
    }

    @Test
    void one_name_is_no_reason_against_the_password_of_another() {
        List<Object> before = List.copyOf(ConfigurationBuilder.getDefaultDictionaries());
        Passwords.check("correct horse battery", "tomas");
        assertThat(ConfigurationBuilder.getDefaultDictionaries()).hasSameSizeAs(before);
    }

    @ParameterizedTest
    @ValueSource(strings = {"short", "ééééééééééééééééééééééééééééééééééééé"})
    void what_is_too_short_or_longer_than_is_looked_at_is_not_taken(String password) {
        assertThatThrownBy(() -> Passwords.check(password, "tomas")).hasMessageContaining("10 to 72 characters");
    }
}
