package fabbrica.core.schedule;

import java.time.Duration;

/** Gives every plate that waits its place. */
public interface Scheduler {

    /** @param budget how long it may think */
    Schedule plan(FloorView floor, Duration budget);
}
