package fabbrica.web.floor;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Which runs to list.
 *
 * @param printerId empty for all
 * @param state     null for all
 * @param from      earliest start, null for no limit
 * @param to        starts before this, null for no limit
 * @param words     part of the model's, the member's name or the cause; empty for all
 */
public record RunFilter(String printerId, Run.@Nullable State state, @Nullable Instant from, @Nullable Instant to, String words) {

    public static final RunFilter ALL = new RunFilter("", null, null, null, "");
}
