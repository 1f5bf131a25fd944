package fabbrica.web.account;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.schedule.Calendar;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import java.security.MessageDigest;
import java.time.DayOfWeek;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** The one-time code that lets whoever sees the terminal create the first coordinator. */
@Component
public class FirstVisit {

    /** Until the lab says otherwise. */
    private static final Calendar USUAL_HOURS = new Calendar(ZoneOffset.UTC, Arrays.stream(DayOfWeek.values())
            .collect(Collectors.toMap(day -> day, day -> List.of(Calendar.Hours.of(9, 20)))), Map.of());

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
            accounts.add(username, password, Role.COORDINATOR, name, null, username);
            inventory.save(lab, USUAL_HOURS, username);
            BuiltIn.materials().forEach(material -> inventory.add(material, username));
            inventory.add(new Nozzle(0.4, false), "", "", 0, username);
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
