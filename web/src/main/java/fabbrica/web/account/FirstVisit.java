package fabbrica.web.account;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import java.security.MessageDigest;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** The one-time code that lets whoever sees the terminal create the first coordinator. */
@Component
public class FirstVisit {

    private final Accounts accounts;
    private final Inventory inventory;
    private final TransactionTemplate transaction;
    private final String code;

    FirstVisit(Accounts accounts, Inventory inventory, TransactionTemplate transaction) {
        this.accounts = accounts;
        this.inventory = inventory;
        this.transaction = transaction;
        this.code = Accounts.freshCode();
    }

    public boolean pending() {
        return !accounts.any();
    }

    /**
     * Makes the first coordinator and an empty lab, all of it or nothing.
     *
     * @throws Refusal when somebody else was first
     */
    void setUp(String username, String password, String name, Lab lab) {
        transaction.executeWithoutResult(status -> {
            if (!pending()) {
                throw new Refusal("Somebody else has just set up this lab.");
            }
            accounts.add(username, password, Role.COORDINATOR, name, null);
            inventory.save(lab);
            BuiltIn.materials().forEach(inventory::save);
            inventory.add(new Nozzle(0.4, false), "");
        });
    }

    boolean accepts(String given) {
        return pending() && MessageDigest.isEqual(code.getBytes(), given.strip().toUpperCase().getBytes());
    }

    @EventListener(ApplicationReadyEvent.class)
    void announce() {
        if (pending()) {
            System.out.println("First visit: open /setup and enter this one-time code: " + code);
        }
    }
}
