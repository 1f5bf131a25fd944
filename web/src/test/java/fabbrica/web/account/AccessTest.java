package fabbrica.web.account;

import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.request;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.web.DemoLabTest;
import fabbrica.web.platform.gate.Access;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpSession;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.RequestMappingInfo;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import org.springframework.web.util.pattern.PathPattern;

@DemoLabTest
class AccessTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private RequestMappingHandlerMapping requestMappingHandlerMapping;

    @ParameterizedTest
    @ValueSource(strings = {"/counter", "/floor", "/stores", "/ledger", "/ledger.csv", "/handbook", "/members",
            "/tickets/1", "/mine"})
    void nobody_sees_a_page_without_signing_in(String page) throws Exception {
        mvc.perform(get(page)).andExpect(status().is3xxRedirection()).andExpect(redirectedUrl("/sign-in"));
    }

    @Test
    void after_signing_in_one_is_where_one_wanted_to_go_never_on_a_piece_of_a_page() throws Exception {
        MockHttpSession session = new MockHttpSession();
        mvc.perform(get("/floor").accept(MediaType.TEXT_HTML).session(session)).andExpect(redirectedUrl("/sign-in"));
        mvc.perform(get("/machines/alarms").accept(MediaType.TEXT_HTML).header("HX-Request", "true").session(session)).andExpect(status().isUnauthorized());
        mvc.perform(get("/plates/1.svg").accept(MediaType.valueOf("image/svg+xml"), MediaType.ALL).session(session)).andExpect(redirectedUrl("/sign-in"));
        mvc.perform(post("/sign-in").param("username", "mira").param("password", "demo-coordinator").with(csrf()).session(session))
                .andExpect(redirectedUrl("http://localhost/floor?continue"));
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
    void every_route_has_its_row_and_every_row_is_kept() throws Exception {
        Set<String> rows = Access.routes().stream().map(AccessTest::name).collect(Collectors.toSet());
        for (RequestMappingInfo route : requestMappingHandlerMapping.getHandlerMethods().keySet()) {
            for (RequestMethod method : route.getMethodsCondition().getMethods()) {
                for (PathPattern pattern : route.getPathPatternsCondition().getPatterns()) {
                    assertThat(rows).as("a row in access.txt").contains(method + " " + pattern.getPatternString());
                }
            }
        }
    }

    static Stream<Access.Route> closed() {
        return Access.routes().stream().filter(route -> !route.isOpen());
    }

    @ParameterizedTest
    @MethodSource("closed")
    void only_the_roles_of_its_row_may(Access.Route route) throws Exception {
        String address = route.pattern().getPatternString().replaceAll("\\{(\\w+)(:[^}]*)?}", "999999");
        for (Role role : Role.values()) {
            int status = mvc.perform(request(route.method(), address).with(user("x").roles(role.name())).with(csrf()))
                    .andReturn().getResponse().getStatus();
            if (route.roles().contains(role.name())) {
                assertThat(status).as("%s for %s", name(route), role).isNotEqualTo(403);
            } else {
                assertThat(status).as("%s for %s", name(route), role).isEqualTo(403);
            }
        }
        mvc.perform(request(route.method(), address).with(csrf())).andExpect(redirectedUrl("/sign-in"));
    }

    private static String name(Access.Route route) {
        return route.method() + " " + route.pattern().getPatternString();
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
