package fabbrica.web.platform;

import static fabbrica.web.Steps.send;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.flash;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.web.DemoLabTest;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@DemoLabTest
class WayBackTest {

    private static final String HERE = "http://lab.example";

    @Autowired
    private MockMvc mvc;

    private MockHttpServletRequestBuilder weighed(String referer) {
        return send("/stores/spools/1/weigh").param("grossG", "much").param("token", "t").header("Host", "lab.example").header("Referer", referer);
    }

    @Test
    void a_form_that_is_refused_leads_back_to_where_it_was_sent_from_with_the_reason_and_what_was_entered() throws Exception {
        mvc.perform(weighed(HERE + "/stores/spools/1?tab=a%20b")).andExpect(redirectedUrl("/stores/spools/1?tab=a%20b"))
                .andExpect(flash().attribute("refused", containsString("takes a number; “much” was given. Nothing was changed.")))
                .andExpect(flash().attribute("entered", allOf(containsString("/stores/spools/1/weigh"), containsString("\"grossG\":[\"much\"]"),
                        not(containsString("token")))));
    }

    @Test
    void from_the_answer_to_a_form_it_leads_to_the_page_above() throws Exception {
        mvc.perform(weighed(HERE + "/stores/spools/1/weigh")).andExpect(redirectedUrl("/stores/spools/1"));
    }

    @Test
    void it_never_leads_to_another_house_and_passwords_are_not_kept() throws Exception {
        mvc.perform(weighed("http://elsewhere.example/stores/spools/1")).andExpect(status().isUnprocessableContent());
        mvc.perform(weighed("nonsense")).andExpect(status().isUnprocessableContent());
        mvc.perform(send("/members/accounts").param("username", "nobody").param("role", "MEMBER").param("password", "a-secret-of-hers")
                .header("Host", "lab.example").header("Referer", HERE + "/members")).andExpect(redirectedUrl("/members"))
                .andExpect(flash().attribute("entered", allOf(containsString("nobody"), not(containsString("a-secret-of-hers")))));
    }
}
