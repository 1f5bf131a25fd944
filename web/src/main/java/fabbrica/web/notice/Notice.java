package fabbrica.web.notice;

import fabbrica.web.account.Member;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Something a member is told.
 *
 * @param member null when nobody is named on the ticket, or the member is forgotten
 * @param sender what ends it when it leaves the house: the ticket and the lab
 */
public record Notice(long ticketId, @Nullable Member member, String subject, String text, String sender) {

    /** Addresses it goes to by mail: the member's, and a minor's grown-up's. */
    public List<String> addresses() {
        return member == null ? List.of() : Stream.of(member.mail().own(), member.minor() ? member.mail().grownUp() : "")
                .filter(address -> !address.isEmpty()).toList();
    }
}
