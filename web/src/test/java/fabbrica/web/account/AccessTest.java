package fabbrica.web.account;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.web.DemoLabTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class AccessTest {

    @Autowired
    private MockMvc mvc;

    @ParameterizedTest
    @ValueSource(strings = {"/counter", "/floor", "/stores", "/ledger", "/ledger.csv", "/handbook", "/members",
            "/tickets/1", "/mine"})
    void nobody_sees_a_page_without_signing_in(String page) throws Exception {
        mvc.perform(get(page)).andExpect(status().is3xxRedirection()).andExpect(redirectedUrl("/sign-in"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"/counter", "/floor", "/stores", "/ledger", "/members", "/tickets/1"})
    void a_member_sees_only_their_own_tickets(String page) throws Exception {
        mvc.perform(get(page).with(user("june").roles("MEMBER"))).andExpect(status().isForbidden());
        mvc.perform(get("/mine").with(user("june").roles("MEMBER"))).andExpect(status().isOk())
                .andExpect(content().string(containsString("phone-stand.stl")))
                .andExpect(content().string(not(containsString("lamp-cap.stl"))));
    }

    @ParameterizedTest
    @ValueSource(strings = {"/stores/spools/new", "/stores/printers/door", "/tickets/45/accept",
            "/tickets/45/decline", "/tickets/45/send-back", "/stores/spools/1/remove"})
    void a_helper_neither_decides_nor_changes_the_stores(String action) throws Exception {
        mvc.perform(post(action).with(user("tomas").roles("HELPER")).with(csrf())).andExpect(status().isForbidden());
    }

    @Test
    void a_form_without_its_token_is_refused() throws Exception {
        mvc.perform(post("/tickets/45/accept").with(user("mira").roles("COORDINATOR")))
                .andExpect(status().isForbidden());
    }

    @Test
    void the_first_visit_is_over_once_there_is_an_account() throws Exception {
        mvc.perform(get("/setup")).andExpect(redirectedUrl("/sign-in"));
    }

    @Test
    void what_is_not_there_is_said_plainly() throws Exception {
        mvc.perform(get("/tickets/99999").with(user("mira").roles("COORDINATOR"))).andExpect(status().isNotFound())
                .andExpect(content().string(containsString("There is nothing at this address.")));
        mvc.perform(get("/tickets/abc").with(user("mira").roles("COORDINATOR"))).andExpect(status().isNotFound());
    }
}
