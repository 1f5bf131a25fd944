package fabbrica.web.account;

import org.jspecify.annotations.Nullable;

/**
 * Somebody who can sign in.
 *
 * @param memberId   the member behind it; null when there is none
 * @param memberName the member's name, else empty
 * @param closed     cannot sign in any more; kept because steps name it
 */
public record Account(long id, String username, Role role, @Nullable Long memberId, String memberName, boolean closed) {
}
