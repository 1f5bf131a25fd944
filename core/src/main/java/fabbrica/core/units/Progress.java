package fabbrica.core.units;

import java.util.concurrent.CancellationException;

/** How a long computation tells how far it is, and learns that nobody waits for it any more. */
public interface Progress {

    Progress IGNORED = new Progress() {
        @Override
        public void reached(double fraction) {
        }

        @Override
        public boolean cancelled() {
            return false;
        }
    };

    /** @param fraction of the whole, 0 to 1; may be called from several threads */
    void reached(double fraction);

    boolean cancelled();

    /** @throws CancellationException when nobody waits any more */
    default void check() {
        if (cancelled()) {
            throw new CancellationException("stopped on request");
        }
    }

    /** The share of one of several passes that take about as long as one another. */
    default Progress pass(int number, int passes) {
        Progress whole = this;
        return new Progress() {
            @Override
            public void reached(double fraction) {
                whole.reached((number + fraction) / passes);
            }

            @Override
            public boolean cancelled() {
                return whole.cancelled();
            }
        };
    }
}
