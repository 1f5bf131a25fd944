package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a ticket loses on a plate that is printed one way for all. */
final class Losses {

    private Losses() {
    }

    /**
     * @param spool null until one is chosen
     * @return in words, what its purpose and its wishes ask for instead; empty when it loses nothing
     */
    static String of(Ticket ticket, StartingPoint chosen, @Nullable StockSpool spool, List<Material> materials) {
        List<String> losses = new ArrayList<>();
        StartingPoint own = ticket.request().purpose() == null ? StartingPoint.DAILY_BREAD : ticket.request().purpose().startingPoint();
        if (own != chosen) {
            losses.add("its purpose asks for “%s”: %s".formatted(own.label(), own.purpose()));
        }
        if (spool != null) {
            String material = materials.stream().filter(each -> each.id().equals(spool.spool().materialId())).map(Material::name)
                    .collect(Collectors.joining());
            String wishes = (wish(ticket.request().materialWish(), material) + " " + wish(ticket.request().colourWish(), spool.spool().colour())).strip();
            if (!wishes.isEmpty()) {
                losses.add("it was wished in " + wishes);
            }
        }
        return String.join("; ", losses);
    }

    /** A wish that is not what there is; else empty. */
    private static String wish(String wish, String there) {
        return there.toLowerCase(Locale.ROOT).contains(wish.strip().toLowerCase(Locale.ROOT)) ? "" : wish.strip();
    }
}
