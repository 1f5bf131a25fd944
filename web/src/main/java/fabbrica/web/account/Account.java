package fabbrica.web.account;

/**
 * Somebody who can sign in.
 *
 * @param memberName the member behind it, else empty
 * @param closed     cannot sign in any more; kept because steps name it
 */
public record Account(long id, String username, Role role, String memberName, boolean closed) {
}
