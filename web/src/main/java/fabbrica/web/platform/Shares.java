package fabbrica.web.platform;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/**
 * Places to work at, shared between people: as many as are worked at without hurry, and one more for each person who has
 * none and for whatever somebody waits for, up to a bound that memory sets. So nobody waits for all that somebody else has
 * asked for, nor for what they might look at themselves; the processor's time is then divided by the operating system.
 */
final class Shares {

    private final int usual;
    private final int most;
    private final ExecutorService threads;
    private final Map<String, Integer> working = new HashMap<>();
    private final List<Turn> waiting = new ArrayList<>();
    /** Whose turn was when, of those who wait or work. */
    private final Map<String, Long> served = new HashMap<>();
    private long turns;
    private int taken;

    /**
     * @param usual places for anybody
     * @param most  places in all, with those for people who have none
     */
    Shares(int usual, int most) {
        this.usual = usual;
        this.most = most;
        this.threads = Executors.newCachedThreadPool(Thread.ofPlatform().name("works-", 0).daemon().factory());
    }

    /** Something that is done for a person once there is a place. */
    static final class Turn {

        private final String person;
        private final Runnable task;
        private boolean waitedFor;

        private Turn(String person, Runnable task, boolean waitedFor) {
            this.person = person;
            this.task = task;
            this.waitedFor = waitedFor;
        }

        private boolean isWaitedFor() {
            return waitedFor;
        }
    }

    /** @param waitedFor whether somebody waits for it */
    synchronized Turn work(String person, boolean waitedFor, Runnable task) {
        Turn turn = new Turn(person, task, waitedFor);
        waiting.add(turn);
        grant();
        return turn;
    }

    /** Somebody waits for it now. */
    synchronized void hurry(Turn turn) {
        turn.waitedFor = true;
        grant();
    }

    /** To what is waited for, then to whoever works at the fewest places, then to whose turn is longest ago. */
    private void grant() {
        while (!waiting.isEmpty()) {
            Turn next = waiting.stream().min(Comparator.comparing(Turn::isWaitedFor).reversed().thenComparing(this::places)
                    .thenComparing(turn -> served.getOrDefault(turn.person, 0L))).orElseThrow();
            if (taken >= (next.waitedFor || places(next) == 0 ? most : usual)) {
                return;
            }
            waiting.remove(next);
            taken++;
            served.put(next.person, ++turns);
            working.merge(next.person, 1, Integer::sum);
            threads.execute(() -> {
                try {
                    next.task.run();
                } finally {
                    leave(next);
                }
            });
        }
    }

    private synchronized void leave(Turn turn) {
        taken--;
        working.merge(turn.person, -1, (all, one) -> all + one == 0 ? null : all + one);
        grant();
        served.keySet().removeIf(person -> !working.containsKey(person) && waiting.stream().noneMatch(one -> one.person.equals(person)));
    }

    private int places(Turn turn) {
        return working.getOrDefault(turn.person, 0);
    }
}
