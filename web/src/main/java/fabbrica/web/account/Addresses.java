package fabbrica.web.account;

import fabbrica.web.platform.FormValues;
import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;

/** What may stand where an address for mail is asked for. */
public final class Addresses {

    private Addresses() {
    }

    /** Notes a problem when something was written that is no address by the rules of internet mail (RFC 822); empty is fine. */
    public static String of(FormValues form, String field) {
        String address = form.text(field);
        if (!address.isEmpty()) {
            try {
                new InternetAddress(address, true).validate();
            } catch (AddressException e) {
                form.problem("“%s” is no address that mail can be sent to.".formatted(address));
            }
        }
        return address;
    }
}
