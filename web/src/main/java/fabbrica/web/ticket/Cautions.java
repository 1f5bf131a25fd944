package fabbrica.web.ticket;

import fabbrica.web.account.Member;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What whoever takes a ticket in is to mind. */
final class Cautions {

    private Cautions() {
    }

    /**
     * A sentence each.
     *
     * @param badgeAsked whether no printer of the lab is for everybody
     */
    static List<String> of(@Nullable Member member, @Nullable Purpose purpose, boolean badgeAsked) {
        List<String> cautions = new ArrayList<>();
        if (member != null && member.lacksGrownUp()) {
            cautions.add(member.name() + " is a minor and no grown-up is named who answers for them.");
        }
        if (badgeAsked && member != null && member.badges().isEmpty()) {
            cautions.add(member.name() + " has no badge for any printer: somebody trained has to run it.");
        }
        if (purpose != null && !purpose.caution().isEmpty()) {
            cautions.add(purpose.caution());
        }
        return cautions;
    }
}
