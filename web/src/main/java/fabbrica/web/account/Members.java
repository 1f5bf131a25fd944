package fabbrica.web.account;

import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import java.time.Clock;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The people of the lab: who brings files, who is trained on what. Shared by all places. */
@Service
public class Members {

    private final AccountRepository repository;
    private final Events events;
    private final Clock clock;

    Members(AccountRepository repository, Events events, Clock clock) {
        this.repository = repository;
        this.events = events;
        this.clock = clock;
    }

    /** Up to 200 members whose name contains the words, by name. */
    public List<Member> search(String words) {
        return repository.members(words.strip());
    }

    /** All who are known, by name. */
    public List<Member> all() {
        return repository.known();
    }

    /** The member of that name, in whatever case it is written. */
    public Optional<Member> named(String name) {
        return repository.memberNamed(name.strip());
    }

    public Optional<Member> member(long id) {
        return repository.member(id);
    }

    /** Members by their numbers, those that are there; what is null is nobody. */
    public Map<Long, Member> members(Collection<? extends @Nullable Long> ids) {
        Set<Long> named = ids.stream().filter(Objects::nonNull).collect(Collectors.toSet());
        return named.isEmpty() ? Map.of() : repository.members(named).stream().collect(Collectors.toMap(Member::id, member -> member));
    }

    /** The member an account belongs to, if any. */
    public Optional<Member> ofAccount(String username) {
        return repository.memberOf(username).flatMap(repository::member);
    }

    @Transactional
    public long add(Member member, String who) {
        long id = repository.insert(member, clock.instant());
        events.record(who, About.member(id), new Fact.MemberAdded());
        return id;
    }

    /** @throws Outdated when the member is no longer as somebody saw them */
    @Transactional
    public void change(Member seen, Member member, String who) {
        requireUnchanged(seen);
        requireKnown(seen);
        repository.update(member);
        events.record(who, About.member(seen.id()), new Fact.MemberChanged());
    }

    /**
     * Adds the members of a list.
     *
     * @param known those that were known already, with what the list says of each: what is missing of them is filled in
     */
    @Transactional
    public void bring(List<Member> fresh, Map<Member, Member> known, String who) {
        fresh.forEach(member -> add(member, who));
        known.forEach((member, listed) -> {
            Member more = member.filledFrom(listed);
            if (!more.equals(member)) {
                change(member, more, who);
            }
        });
    }

    /**
     * Makes two members one: tickets, accounts and badges of the double go to the other, and what is missing there is filled in.
     *
     * @throws Outdated when one of them is no longer as somebody saw them
     */
    @Transactional
    public void merge(Member kept, Member twin, String who) {
        requireUnchanged(kept);
        requireUnchanged(twin);
        requireKnown(kept);
        requireKnown(twin);
        Set<String> badges = new HashSet<>(kept.badges());
        badges.addAll(twin.badges());
        repository.hand(twin.id(), kept.id());
        repository.delete(twin.id());
        repository.update(kept.filledFrom(twin).with(badges));
        events.record(who, About.member(kept.id()), new Fact.MemberMerged(twin.id()));
    }

    /** Where a member wants to be told; nothing else is changed. */
    @Transactional
    public void tell(long memberId, String email, String who) {
        Member member = member(memberId).orElseThrow();
        repository.update(member.with(new Member.Mail(email, member.mail().grownUp())));
        events.record(who, About.member(memberId), new Fact.MemberChanged());
    }

    /**
     * Takes all that is known of a member but the number.
     *
     * @throws Outdated when the member is no longer as somebody saw them
     */
    @Transactional
    public void forget(Member seen, String who) {
        requireUnchanged(seen);
        requireKnown(seen);
        repository.forget(seen.id(), "Former member " + seen.id(), clock.instant());
        events.record(who, About.member(seen.id()), new Fact.MemberForgotten());
    }

    private static void requireKnown(Member member) {
        if (member.forgotten()) {
            throw new Refusal("This member was forgotten for good; only the number is left.");
        }
    }

    private void requireUnchanged(Member seen) {
        if (!repository.member(seen.id()).equals(Optional.of(seen))) {
            throw new Outdated();
        }
    }
}
