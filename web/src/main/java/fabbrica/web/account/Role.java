package fabbrica.web.account;

/** What an account may do; the names are stored. */
public enum Role {
    COORDINATOR, HELPER, MEMBER
}
