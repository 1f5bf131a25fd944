package fabbrica.core.schedule;

import java.time.Instant;
import java.util.List;
import java.util.stream.IntStream;

/** How far a machine has come with each of its chores while a plan is laid out. Sets of chores are bits; times are seconds from a moment. */
final class Keeping {

    private final List<Chore> chores;
    private final long[] takes;
    private final int[] skill;
    private final long[] everyPrinting;
    private final long[] every;
    private final long[] printed;
    private final long[] last;

    Keeping(List<Chore> all, Instant now) {
        chores = all.stream().limit(FloorView.Machine.MOST_CHORES).toList();
        takes = chores.stream().mapToLong(chore -> chore.takes().toSeconds()).toArray();
        skill = chores.stream().mapToInt(chore -> 1 << chore.who().ordinal()).toArray();
        everyPrinting = chores.stream().mapToLong(chore -> chore.everyPrinting() == null ? Timing.NEVER : chore.everyPrinting().toSeconds()).toArray();
        every = chores.stream().mapToLong(chore -> chore.every() == null ? Timing.NEVER : chore.every().toSeconds()).toArray();
        printed = chores.stream().mapToLong(chore -> chore.printed().toSeconds()).toArray();
        last = chores.stream().mapToLong(chore -> chore.last().getEpochSecond() - now.getEpochSecond()).toArray();
    }

    private Keeping(Keeping other) {
        chores = other.chores;
        takes = other.takes;
        skill = other.skill;
        everyPrinting = other.everyPrinting;
        every = other.every;
        printed = other.printed.clone();
        last = other.last.clone();
    }

    Keeping copy() {
        return chores.isEmpty() ? this : new Keeping(this);
    }

    /** Comes as far as another of the same machine. */
    void as(Keeping other) {
        System.arraycopy(other.printed, 0, printed, 0, printed.length);
        System.arraycopy(other.last, 0, last, 0, last.length);
    }

    /** What is owed before a start; the later it is, the more. */
    int owed(long start) {
        int owed = 0;
        for (int i = 0; i < takes.length; i++) {
            if (printed[i] >= everyPrinting[i] || start - last[i] >= every[i]) {
                owed |= 1 << i;
            }
        }
        return owed;
    }

    long lasts(int owed) {
        long lasts = 0;
        for (int rest = owed; rest != 0; rest &= rest - 1) {
            lasts += takes[Integer.numberOfTrailingZeros(rest)];
        }
        return lasts;
    }

    int skill(int owed) {
        int all = 0;
        for (int rest = owed; rest != 0; rest &= rest - 1) {
            all |= skill[Integer.numberOfTrailingZeros(rest)];
        }
        return all;
    }

    /** Does what is owed, starts and prints. */
    void print(int owed, long start, long lasts) {
        for (int i = 0; i < takes.length; i++) {
            if ((owed & 1 << i) != 0) {
                printed[i] = 0;
                last[i] = start;
            }
            printed[i] += lasts;
        }
    }

    List<String> named(int owed) {
        return IntStream.range(0, chores.size()).filter(i -> (owed & 1 << i) != 0).mapToObj(i -> chores.get(i).what()).toList();
    }
}
