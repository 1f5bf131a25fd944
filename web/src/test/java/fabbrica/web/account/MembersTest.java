package fabbrica.web.account;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.web.DemoLabTest;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class MembersTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Members members;
    @Autowired
    private Accounts accounts;

    @Test
    void a_member_is_added_with_badges_and_changed() throws Exception {
        mvc.perform(send("/members/0").param("name", "Ndidi Sol").param("badge", "door", "glass"))
                .andExpect(redirectedUrl("/members"));
        Member added = members.search("Ndidi").getFirst();
        assertThat(added.badges()).isEqualTo(Set.of("door", "glass"));
        mvc.perform(send("/members/" + added.id()).param("name", "Ndidi Sol").param("badge", "long")
                .param("minor", "on").param("grownUp", "Ebo Sol").param("grownUpEmail", "ebo@home.example")).andExpect(redirectedUrl("/members"));
        Member changed = members.member(added.id()).orElseThrow();
        assertThat(changed.badges()).containsExactly("long");
        assertThat(changed.lacksGrownUp()).isFalse();
        assertThat(changed.mail()).isEqualTo(new Member.Mail("", "ebo@home.example"));
        mvc.perform(open("/members?search=odo")).andExpect(content().string(
                containsString("minor, no grown-up named")));
    }

    @Test
    void a_member_without_a_name_is_refused_in_place() throws Exception {
        mvc.perform(send("/members/0").param("name", "  ").param("note", "tall")).andExpect(content().string(
                containsString("Name is missing.")));
    }

    @Test
    void the_coordinator_lets_others_sign_in_each_with_a_role() throws Exception {
        mvc.perform(send("/members/accounts").param("username", "piet").param("password", "three odd lanterns")
                .param("role", "MEMBER").param("memberName", "Piet Lindqvar")).andExpect(redirectedUrl("/members"));
        assertThat(members.ofAccount("piet").orElseThrow().name()).isEqualTo("Piet Lindqvar");
        assertThat(accounts.loadUserByUsername("piet").getAuthorities()).extracting(Object::toString)
                .anyMatch(authority -> authority.contains("ROLE_MEMBER"));
        mvc.perform(send("/members/accounts").param("username", "ghost").param("password", "three odd lanterns")
                .param("role", "MEMBER").param("memberName", "Nobody Known")).andExpect(content().string(
                        containsString("needs the member&#39;s name as it stands in the list")));
        mvc.perform(post("/members/accounts").with(user("tomas").roles("HELPER")).with(csrf())
                .param("username", "sly").param("password", "three odd lanterns").param("role", "COORDINATOR"))
                .andExpect(status().isForbidden());
    }

    @Test
    void signs_with_a_meaning_to_the_database_are_searched_for_as_they_are() {
        assertThat(members.search("%")).isEmpty();
        assertThat(members.search("_")).isEmpty();
        assertThat(members.search("'; drop table member; --")).isEmpty();
        assertThat(members.search("")).isNotEmpty();
    }

    @Test
    void passwords_have_a_least_length_and_names_are_taken_once() {
        assertThatThrownBy(() -> accounts.add("new", "short", Role.HELPER, "New", null, "mira"))
                .hasMessageContaining("10 to 72 characters");
        assertThatThrownBy(() -> accounts.add("mira", "long enough now", Role.HELPER, "New", null, "mira"))
                .hasMessage("The name “mira” is taken.");
        assertThatThrownBy(() -> accounts.loadUserByUsername("nobody"))
                .isInstanceOf(UsernameNotFoundException.class);
        assertThat(accounts.loadUserByUsername("mira").getPassword()).startsWith("$2");
    }
}
