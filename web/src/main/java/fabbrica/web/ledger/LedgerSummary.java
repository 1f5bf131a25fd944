package fabbrica.web.ledger;

import fabbrica.core.run.Deviation;
import fabbrica.web.ticket.Run;
import java.util.List;

/**
 * Runs that have ended, summed up.
 *
 * @param time minutes promised against real, of the runs that came out well
 */
record LedgerSummary(long ended, long failed, double grams, double hours, Deviation time) {

    static LedgerSummary of(List<Run> runs) {
        List<Run> ended = runs.stream().filter(run -> run.state() != Run.State.RUNNING).toList();
        List<Run> done = ended.stream().filter(run -> run.state() == Run.State.DONE).toList();
        return new LedgerSummary(ended.size(), ended.size() - done.size(),
                ended.stream().mapToDouble(Run::realG).sum(), ended.stream().mapToDouble(Run::realMinutes).sum() / 60,
                new Deviation(done.stream().mapToDouble(run -> run.promisedS() / 60).sum(),
                        done.stream().mapToDouble(Run::realMinutes).sum()));
    }
}
