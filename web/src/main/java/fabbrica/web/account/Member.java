package fabbrica.web.account;

import java.util.Set;

/**
 * Somebody who brings files.
 *
 * @param grownUp     for a minor the grown-up who answers for them; empty when nobody is named
 * @param memberClass one of those the lab's tariff has rates for, or empty
 * @param badges      ids of the printers the member was trained on
 * @param forgotten   whether only the number is left, so that counts stay
 */
public record Member(long id, String name, boolean minor, String grownUp, String note, String memberClass,
                     Set<String> badges, boolean forgotten, Mail mail) {

    /** Addresses under which they are told; either may be empty. */
    public record Mail(String own, String grownUp) {

        public static final Mail NONE = new Mail("", "");
    }

    /** Somebody who is known. */
    public Member(long id, String name, boolean minor, String grownUp, String note, String memberClass, Set<String> badges) {
        this(id, name, minor, grownUp, note, memberClass, badges, false, Mail.NONE);
    }

    public Member with(Mail other) {
        return new Member(id, name, minor, grownUp, note, memberClass, badges, forgotten, other);
    }

    Member with(Set<String> otherBadges) {
        return new Member(id, name, minor, grownUp, note, memberClass, otherBadges, forgotten, mail);
    }

    /** The same member with what is missing taken from what another entry says. */
    Member filledFrom(Member other) {
        return new Member(id, name, minor || other.minor, filled(grownUp, other.grownUp), filled(note, other.note), filled(memberClass, other.memberClass), badges,
                forgotten, new Mail(filled(mail.own(), other.mail.own()), filled(mail.grownUp(), other.mail.grownUp())));
    }

    private static String filled(String own, String other) {
        return own.isBlank() ? other : own;
    }

    public boolean lacksGrownUp() {
        return minor && !forgotten && grownUp.isBlank();
    }

    public boolean hasBadge(String printerId) {
        return badges.contains(printerId);
    }
}
