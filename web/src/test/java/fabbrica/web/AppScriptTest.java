package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What every page can do: nothing sent in vain, files dropped, keys, and asking again when something went on. */
class AppScriptTest extends Stage {

    private static final String HEAD = """
            <script>
              window.streams = [];
              delete window.SharedWorker; window.EventSource = class extends EventTarget { constructor(at) { super(); this.at = at; window.streams.push(this); } close() { this.closed = true; } };
            </script><script defer src="/webjars/htmx.org/dist/htmx.min.js"></script><script defer src="/app.js"></script>""";

    private String alive;

    @BeforeEach
    void page() {
        alive = "{\"who\": \"mira\", \"token\": \"new\", \"trouble\": \"\"}";
        answer("/alive", request -> alive == null ? null : alive.getBytes(StandardCharsets.UTF_8));
        answer("/kept", request -> page("kept " + request.postData()));
        answer("/preview", "<div id=\"preview\"><details id=\"others\"><summary>others</summary></details>after</div><details id=\"recipe\" hx-swap-oob=\"true\"><summary>recipe</summary>new</details>");
        answer("/worked", "<p id=\"waits\">it came</p>");
        for (String place : new String[] {"/floor", "/members"}) {
            answer(place, "<h1>" + place + "</h1>");
        }
        play(HEAD, """
                <div id="trouble" hidden></div><div id="notice"></div>
                <form id="member" method="post" action="/kept"><input type="hidden" name="_csrf" value="old"><input name="name"><button id="keep" data-ask="Keep it?">Keep</button></form>
                <form class="drop" data-limit-mb="1" hx-post="/taken" hx-target="#notice" hx-encoding="multipart/form-data"><input id="file" type="file" name="file" multiple><progress></progress></form>
                <p id="waits" hx-get="/worked" hx-trigger="worked from:body" hx-swap="outerHTML">waiting</p>
                <input id="slide" type="range" min="-1" max="1" step="0.01" value="0"><input id="scale" value="100">
                <div id="trade"><select id="second"><option>a<option>b</select></div>
                <input id="infill" value="15"><button id="advice" data-set="infill" data-to="40">40 %</button>
                <form><div id="preview" hx-get="/preview" hx-trigger="ask" hx-swap="outerHTML"><details id="others"><summary>others</summary></details>before</div><input id="typed"></form><details id="recipe"><summary>recipe</summary>old</details>
                <dialog id="keys">keys</dialog>""");
        page.waitForFunction("() => window.htmx && window.streams.length");
    }

    private static byte[] page(String said) {
        return ("<h1>" + said + "</h1>").getBytes(StandardCharsets.UTF_8);
    }

    private void keep() {
        at("[name=name]").fill("Odalys");
        page.onceDialog(dialog -> dialog.accept());
        at("#keep").click();
    }

    @Test
    void what_was_unfolded_stays_so_when_its_place_is_filled_anew() {
        at("#others summary").click();
        at("#recipe summary").click();
        page.evaluate("htmx.trigger('#preview', 'ask')");
        assertThat(at("#preview")).containsText("after");
        assertThat(at("#others")).hasAttribute("open", "");
        assertThat(at("#recipe")).containsText("new");
        assertThat(at("#recipe")).hasAttribute("open", "");
    }

    @Test
    void whoever_was_at_work_in_a_place_that_is_filled_anew_stays_at_what_they_were_at() {
        answer("/round", "<div id=\"round\"><a href=\"/one\">Start</a><a href=\"/two\">Start</a></div>");
        play(HEAD, "<div id=\"trouble\"></div><div id=\"round\" hx-get=\"/round\" hx-trigger=\"ask\" hx-swap=\"outerHTML\"><a href=\"/two\">Start</a><button id=\"done\">Done</button></div>");
        page.waitForFunction("() => window.htmx");
        at("[href='/two']").focus();
        page.evaluate("htmx.trigger('#round', 'ask')");
        assertThat(at("[href='/one']")).isVisible();
        assertThat(at("[href='/two']")).isFocused();
    }

    @Test
    void when_that_is_gone_they_stay_at_the_place() {
        answer("/round", "<div id=\"round\">Nothing waits.</div>");
        play(HEAD, "<div id=\"trouble\"></div><div id=\"round\" hx-get=\"/round\" hx-trigger=\"ask\" hx-swap=\"outerHTML\"><button id=\"done\">Done</button></div>");
        page.waitForFunction("() => window.htmx");
        at("#done").focus();
        page.evaluate("htmx.trigger('#round', 'ask')");
        assertThat(at("#round")).hasText("Nothing waits.");
        assertThat(at("#round")).isFocused();
    }

    @Test
    void an_answer_to_what_a_form_held_before_somebody_changed_it_comes_too_late() {
        page.evaluate("""
                document.addEventListener('htmx:beforeSend', () => setTimeout(() => document.getElementById('typed').dispatchEvent(new Event('input', { bubbles: true }))));
                document.addEventListener('htmx:afterRequest', () => { window.answered = true; });
                htmx.trigger('#preview', 'ask');""");
        page.waitForFunction("() => window.answered");
        assertThat(at("#preview")).containsText("before");
    }

    @Test
    void a_form_goes_out_with_the_token_of_now() {
        keep();
        assertThat(at("h1")).hasText("kept _csrf=new&name=Odalys");
    }

    @Test
    void a_press_goes_out_though_its_place_is_filled_anew_in_the_same_moment() {
        answer("/round", "<div id=\"round\">filled anew</div>");
        play(HEAD, """
                <div id="trouble"></div><div id="round" hx-get="/round" hx-trigger="ask" hx-swap="outerHTML"><form method="post" action="/kept"><input type="hidden" name="_csrf" value="old">
                <button id="done" name="done" value="yes">Done</button></form></div>""");
        page.waitForFunction("() => window.htmx");
        answer("/alive", request -> {
            page.evaluate("htmx.swap('#round', '<div id=\"round\">filled anew</div>', { swapStyle: 'outerHTML' })");
            return alive.getBytes(StandardCharsets.UTF_8);
        });
        at("#done").click();
        assertThat(at("h1")).hasText("kept _csrf=new&done=yes");
    }

    /** Without its button a form would do what it does by itself. */
    @Test
    void a_press_goes_out_though_only_its_button_is_filled_anew_in_the_same_moment() {
        play(HEAD, """
                <div id="trouble"></div><form method="post" action="/waits"><input type="hidden" name="_csrf" value="old">
                <div id="line" hx-get="/line" hx-trigger="ask" hx-swap="outerHTML"><button formaction="/kept" name="done" value="yes">Done</button></div></form>""");
        page.waitForFunction("() => window.htmx");
        answer("/alive", request -> {
            page.evaluate("htmx.swap('#line', '<div id=\"line\">filled anew</div>', { swapStyle: 'outerHTML' })");
            return alive.getBytes(StandardCharsets.UTF_8);
        });
        at("#line button").click();
        assertThat(at("h1")).hasText("kept _csrf=new&done=yes");
    }

    @Test
    void what_is_being_pressed_stays_until_it_is_let_go() {
        answer("/worked", "<p id=\"waits\">it came</p>");
        play(HEAD, """
                <div id="trouble"></div><p id="waits" hx-get="/worked" hx-trigger="worked from:body" hx-swap="outerHTML"><a href="/floor">Start</a></p>
                <script>document.addEventListener('htmx:afterRequest', () => { window.answers = (window.answers ?? 0) + 1; });</script>""");
        page.waitForFunction("() => window.htmx && window.streams.length");
        at("#waits a").hover();
        page.mouse().down();
        page.evaluate("streams[0].dispatchEvent(new Event('worked'))");
        page.waitForFunction("() => window.answers");
        assertThat(at("#waits")).hasText("Start");
        page.evaluate("document.querySelector('#waits a').addEventListener('click', event => { event.preventDefault(); window.clicked = true; })");
        page.mouse().up();
        assertThat(at("#waits")).hasText("it came");
        assertThat(page.evaluate("window.clicked")).isEqualTo(true);
    }

    @Test
    void a_form_is_held_back_with_what_was_typed_while_it_would_be_sent_in_vain() {
        alive = "{\"who\": \"\", \"token\": \"x\", \"trouble\": \"\"}";
        keep();
        assertThat(at("#trouble")).hasText("Your session is over. Nothing was sent. What you entered is still here: send it again afterwards. Sign in in another tab.");
        assertThat(at("#trouble a")).hasAttribute("href", "/sign-in");
        alive = "{\"who\": \"tomas\", \"token\": \"x\", \"trouble\": \"\"}";
        keep();
        assertThat(at("#trouble")).containsText("“tomas” has signed in here meanwhile.");
        alive = "{\"who\": \"mira\", \"token\": \"x\", \"trouble\": \"The disk is full.\"}";
        keep();
        assertThat(at("#trouble")).containsText("The disk is full. Nothing was sent.");
        alive = null;
        keep();
        assertThat(at("#trouble")).containsText("The server cannot be reached.");
        assertThat(at("[name=name]")).hasValue("Odalys");
        assertThat(asked).noneMatch(request -> request.startsWith("POST"));
    }

    @Test
    void a_question_answered_with_no_sends_nothing() {
        page.onceDialog(dialog -> {
            assertThat(dialog.message()).isEqualTo("Keep it?");
            dialog.dismiss();
        });
        at("#keep").click();
        at("#advice").click();
        assertThat(at("#infill")).hasValue("40");
        assertThat(asked).doesNotContain("GET /alive", "POST /kept");
    }

    @Test
    void a_file_beyond_the_limit_is_named_by_its_size_and_not_sent() {
        at("#file").setInputFiles(new FilePayload("big.stl", "model/stl", new byte[3 << 19]));
        assertThat(at("#notice")).hasText("The file has 1.5 MB; the limit is 1 MB. Nothing was sent.");
        assertThat(asked).doesNotContain("POST /taken");
    }

    @Test
    void files_dropped_anywhere_on_the_page_are_handed_over() {
        answer("/taken", "<p>taken in</p>");
        page.evaluate("""
                () => {
                  const files = new DataTransfer();
                  files.items.add(new File(['solid'], 'part.stl'));
                  document.body.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: files }));
                }""");
        assertThat(at("#notice")).hasText("taken in");
        assertThat(asked).contains("GET /alive", "POST /taken");
    }

    @Test
    void an_answer_that_is_a_fault_is_said_in_words() {
        answer("/taken", request -> null);
        at("#file").setInputFiles(new FilePayload("part.stl", "model/stl", new byte[9]));
        assertThat(at("#trouble")).containsText("Something went wrong on the server. What was kept before is safe.");
    }

    @Test
    void what_waits_asks_again_when_told_and_the_stream_ends_when_nothing_waits() {
        assertThat(page.evaluate("streams.map(stream => stream.at)")).isEqualTo(List.of("/live"));
        assertThat(at("#waits")).hasText("waiting");
        page.evaluate("streams[0].dispatchEvent(new Event('worked'))");
        assertThat(at("#waits")).hasText("it came");
        page.waitForFunction("() => streams[0].closed");
    }

    @Test
    void what_happens_while_a_place_waits_for_an_answer_is_asked_about_after() {
        String waits = "<p id=\"waits\" hx-get=\"/worked\" hx-trigger=\"worked from:body\" hx-swap=\"outerHTML\">%s</p>";
        AtomicBoolean again = new AtomicBoolean();
        answer("/worked", request -> {
            if (again.getAndSet(true)) {
                return waits.formatted("done").getBytes(StandardCharsets.UTF_8);
            }
            page.evaluate("streams[0].dispatchEvent(new Event('worked'))");
            return waits.formatted("still at it").getBytes(StandardCharsets.UTF_8);
        });
        play(HEAD, waits.formatted("waiting"));
        page.waitForFunction("() => window.htmx && window.streams.length");
        page.evaluate("streams[0].dispatchEvent(new Event('worked'))");
        assertThat(at("#waits")).hasText("done");
    }

    @Test
    void what_an_answer_that_came_too_late_for_a_form_was_asked_for_is_asked_about_again() {
        AtomicBoolean again = new AtomicBoolean();
        answer("/worked", request -> {
            if (again.getAndSet(true)) {
                return "<p id=\"waits\">done</p>".getBytes(StandardCharsets.UTF_8);
            }
            page.evaluate("document.getElementById('typed').dispatchEvent(new Event('input', { bubbles: true }))");
            return "<p id=\"waits\">as it was before</p>".getBytes(StandardCharsets.UTF_8);
        });
        play(HEAD, "<form><input id=\"typed\"><p id=\"waits\" hx-get=\"/worked\" hx-trigger=\"worked from:body\" hx-swap=\"outerHTML\">waiting</p></form>");
        page.waitForFunction("() => window.htmx && window.streams.length");
        page.evaluate("streams[0].dispatchEvent(new Event('worked'))");
        assertThat(at("#waits")).hasText("done");
    }

    @Test
    void keys_lead_to_places_but_not_while_somebody_types() {
        at("[name=name]").press("g");
        at("[name=name]").press("f");
        assertThat(at("[name=name]")).hasValue("gf");
        at("[name=name]").blur();
        page.keyboard().press("?");
        assertThat(at("#keys")).isVisible();
        page.keyboard().press("Escape");
        page.keyboard().press("g");
        page.keyboard().press("x");
        page.keyboard().press("f");
        page.keyboard().press("g");
        page.keyboard().press("m");
        assertThat(at("h1")).hasText("/members");
    }

    @Test
    void the_slide_goes_from_a_tenth_to_ten_times_on_a_scale_of_logarithms() {
        at("#slide").fill("-1");
        assertThat(at("#scale")).hasValue("10");
        at("#slide").fill("0.3");
        assertThat(at("#scale")).hasValue("200");
    }

    @Test
    void choosing_what_to_compare_does_not_change_the_plan_around_it() {
        page.evaluate("document.addEventListener('change', () => window.changed = true); document.addEventListener('compare', () => window.compared = true)");
        at("#second").selectOption("b");
        page.waitForFunction("() => window.compared");
        assertThat(page.evaluate("window.changed === undefined")).isEqualTo(true);
    }

    @Test
    void a_form_that_was_refused_is_filled_in_again_as_it_was_sent_and_opened() {
        play(HEAD, """
                <div id="trouble">It was refused.</div>
                <div id="entered" hidden data-form='{"address": "/kept", "values": {"name": ["Odalys"], "size": ["b"], "day": ["mon", "wed"], "note": ["first", "second"]}}'></div>
                <form method="post" action="/other"><input id="elsewhere" name="name" value="untouched"></form>
                <details id="fold"><summary>more</summary><form method="post" action="/kept"><input type="hidden" name="seen" value="mark"><input id="name" name="name">
                  <select id="size" name="size"><option>a<option>b</select><input type="checkbox" id="mon" name="day" value="mon"><input type="checkbox" id="tue" name="day" value="tue" checked>
                  <input id="first" name="note"><input id="second" name="note"><input id="left" name="left" value="as it was"></form></details>""");
        assertThat(at("#name")).hasValue("Odalys");
        assertThat(at("#size")).hasValue("b");
        assertThat(at("#mon")).isChecked();
        assertThat(at("#tue")).not().isChecked();
        assertThat(at("#second")).hasValue("second");
        assertThat(at("#left")).hasValue("as it was");
        assertThat(at("#elsewhere")).hasValue("untouched");
        assertThat(at("#fold")).hasAttribute("open", "");
    }
}
