package fabbrica.web.account;

import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Members that come from a class list, and members that are one person. */
@Controller
class ClassListController {

    private static final int LARGEST = 1 << 20;

    private final Members members;

    ClassListController(Members members) {
        this.members = members;
    }

    /**
     * A line of the list and who it may be.
     *
     * @param known   the member of that name; null when there is none
     * @param near    a member, or an earlier line, whose name is much like it; empty when there is none
     * @param problem why it cannot be taken; empty when it can
     */
    record Entry(long number, Member member, @Nullable Member known, String near, String problem) {

        public boolean isNew() {
            return known == null && problem.isEmpty();
        }
    }

    record ListPage(String csv, List<Entry> entries) {

        public long fresh() {
            return entries.stream().filter(Entry::isNew).count();
        }

        public long known() {
            return entries.stream().filter(entry -> entry.known() != null).count();
        }

        public long wrong() {
            return entries.stream().filter(entry -> !entry.problem().isEmpty()).count();
        }
    }

    @PostMapping("/members/list")
    String look(@RequestParam MultipartFile file, Model page) throws IOException {
        if (file.getSize() > LARGEST) {
            throw new Refusal("A class list has up to 1 MB.");
        }
        return shown(text(file.getBytes()), page);
    }

    private String shown(String csv, Model page) {
        page.addAttribute("page", new ListPage(csv, entries(csv)));
        return "account/list";
    }

    /** Adds those that are new and fills in what was not known of the others. */
    @PostMapping("/members/list/keep")
    String keep(@RequestParam String csv, Principal who, RedirectAttributes flash) {
        List<Entry> entries = entries(csv);
        members.bring(entries.stream().filter(Entry::isNew).map(Entry::member).toList(),
                entries.stream().filter(entry -> entry.known() != null).collect(Collectors.toMap(entry -> Objects.requireNonNull(entry.known()), Entry::member)), who.getName());
        ListPage list = new ListPage(csv, entries);
        flash.addFlashAttribute("told", "%d members were added, %d were known.".formatted(list.fresh(), list.known()));
        return "redirect:/members";
    }

    private List<Entry> entries(String csv) {
        Map<NameKey, Member> known = members.all().stream().collect(Collectors.toMap(member -> NameKey.of(member.name()), member -> member, (one, other) -> one));
        List<NameKey> before = new ArrayList<>();
        List<Entry> entries = new ArrayList<>();
        for (ClassList.Line line : ClassList.of(csv)) {
            NameKey key = NameKey.of(line.member().name());
            FormValues addresses = new FormValues(new LinkedMultiValueMap<>(Map.of("own", List.of(line.member().mail().own()), "grownUp", List.of(line.member().mail().grownUp()))));
            Addresses.of(addresses, "own");
            Addresses.of(addresses, "grownUp");
            String problem = before.contains(key) ? "stands on the list twice" : line.member().lacksGrownUp() ? "is a minor, and no grown-up is named"
                    : String.join(" ", addresses.problems());
            String near = known.entrySet().stream().filter(each -> each.getKey().isNear(key)).map(each -> each.getValue().name()).findFirst().orElse("");
            before.add(key);
            entries.add(new Entry(line.number(), line.member(), known.get(key), known.containsKey(key) ? "" : near, problem));
        }
        return entries;
    }

    /** Lists come from spreadsheets: in UTF-8, else in the Latin letters of Windows. */
    private static String text(byte[] content) {
        try {
            String text = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(content)).toString();
            return text.startsWith("\uFEFF") ? text.substring(1) : text;
        } catch (CharacterCodingException e) {
            return new String(content, Charset.forName("windows-1252"));
        }
    }

    /** Makes two members one: what the double has goes to the other. */
    @PostMapping("/members/{id}/merge")
    String merge(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Member seen = Seen.unchanged(members.member(id).orElseThrow(), form);
        String name = form.text("same");
        Member other = members.all().stream().filter(member -> member.name().equalsIgnoreCase(name) && member.id() != id).findFirst()
                .orElseThrow(() -> new Refusal("There is no other member “%s”.".formatted(name)));
        members.merge(seen, other, who.getName());
        flash.addFlashAttribute("told", "%s is one person now, with the tickets of both.".formatted(seen.name()));
        return "redirect:/members/" + id;
    }
}
