package fabbrica.web.counter;

import fabbrica.web.account.Member;
import fabbrica.web.account.Members;

/** Names for the tickets of a list. */
record MemberNames(Members members) {

    public String of(Long memberId) {
        return memberId == null ? "" : members.member(memberId).map(Member::name).orElse("");
    }
}
