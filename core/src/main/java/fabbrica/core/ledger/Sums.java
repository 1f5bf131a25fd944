package fabbrica.core.ledger;

import fabbrica.core.ledger.Entry.Ending;
import fabbrica.core.units.Money;
import java.util.Comparator;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Entries summed up by what they are told apart by, one entry after another. */
public final class Sums<K> {

    private static final Comparator<Line<?>> LARGEST = Comparator.comparingDouble((Line<?> line) -> line.sum().hours()).reversed();

    private final Map<K, Running> running = new HashMap<>();

    /** @param of what the entries have in common */
    public record Line<K>(K of, Sum sum) {
    }

    public void add(K of, Entry entry) {
        running.computeIfAbsent(of, first -> new Running()).add(entry);
    }

    public Sum of(K key) {
        Running sum = running.get(key);
        return sum == null ? Sum.NOTHING : sum.sum();
    }

    /** The one that took the machines longest first. */
    public List<Line<K>> largestFirst() {
        return running.entrySet().stream().map(entry -> new Line<>(entry.getKey(), entry.getValue().sum())).sorted(LARGEST).toList();
    }

    private static final class Running {

        private final Map<Currency, Long> coins = new HashMap<>();
        private long copies;
        private long failed;
        private double seconds;
        private double grams;

        void add(Entry entry) {
            copies += entry.ending() == Ending.STOPPED ? 0 : 1;
            failed += entry.ending() == Ending.FAILED ? 1 : 0;
            seconds += entry.seconds();
            grams += entry.grams();
            coins.merge(entry.cost().currency(), entry.cost().coins(), Long::sum);
        }

        Sum sum() {
            return new Sum(copies, failed, seconds / 3600, grams,
                    coins.entrySet().stream().map(sum -> Money.ofCoins(sum.getValue(), sum.getKey())).sorted(Comparator.comparing(money -> money.currency().getCurrencyCode())).toList());
        }
    }
}
