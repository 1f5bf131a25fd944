package fabbrica.web.ticket;

/**
 * What came of earlier files from one source.
 *
 * @param printed files that had a run
 * @param failed  files that had a run that failed
 */
public record Experience(int files, int printed, int failed) {
}
