package fabbrica.web.upkeep;

import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.Sha256;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Whether a data folder, or a backup of one, is whole: the database sound, every file it names there and unaltered. Reads
 * all of it once.
 *
 * @param faults   what is wrong with the database
 * @param missing  hashes of files that are named and not there
 * @param altered  hashes of files whose content is another
 * @param orphaned names of files that nothing names; what is being taken in at this moment may be among them
 */
record DataCheck(List<String> faults, Set<String> missing, Set<String> altered, Set<String> orphaned, int files) {

    static DataCheck of(Path folder) throws IOException {
        if (!Files.exists(DataFolder.database(folder))) {
            return new DataCheck(List.of("there is no database"), Set.of(), Set.of(), Set.of(), 0);
        }
        try (DatabaseRepository database = new DatabaseRepository(DataFolder.database(folder))) {
            return of(DataFolder.files(folder), database.files(), database.faults());
        } catch (UpkeepException e) {
            return new DataCheck(List.of(e.getMessage()), Set.of(), Set.of(), Set.of(), 0);
        }
    }

    private static DataCheck of(Path files, Set<String> named, List<String> faults) throws IOException {
        Set<String> missing = new TreeSet<>(), altered = new TreeSet<>(), orphaned = new TreeSet<>();
        for (String name : named) {
            Path file = files.resolve(name);
            if (!Files.exists(file)) {
                missing.add(name);
            } else if (!Sha256.of(file).equals(name)) {
                altered.add(name);
            }
        }
        if (Files.exists(files)) {
            try (Stream<Path> all = Files.list(files)) {
                all.map(file -> file.getFileName().toString()).filter(name -> !named.contains(name)).forEach(orphaned::add);
            }
        }
        return new DataCheck(faults, missing, altered, orphaned, named.size());
    }

    /** Nothing of it is lost. */
    boolean whole() {
        return faults.isEmpty() && missing.isEmpty() && altered.isEmpty();
    }

    /** Whether no more is wrong with it than with another. */
    boolean asGoodAs(DataCheck other) {
        return faults.isEmpty() && other.missing.containsAll(missing)
                && altered.stream().allMatch(name -> other.altered.contains(name) || other.missing.contains(name));
    }

    /** For a terminal, a line for each thing. */
    List<String> report() {
        List<String> lines = new ArrayList<>();
        faults.forEach(fault -> lines.add("database: " + fault));
        missing.forEach(name -> lines.add("missing:  " + name));
        altered.forEach(name -> lines.add("altered:  " + name));
        orphaned.forEach(name -> lines.add("orphaned: " + name));
        lines.add(whole() ? "Whole: the database is sound and all %d files it names are there, unaltered.".formatted(files)
                : "Not whole. Restore a backup, or hand the files named above over again.");
        return lines;
    }
}
