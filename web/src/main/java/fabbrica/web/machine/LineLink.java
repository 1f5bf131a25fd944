package fabbrica.web.machine;

import fabbrica.core.run.Command;
import fabbrica.core.run.MachineEvent;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.ConnectException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * The line protocol over TCP. One thread asks how the machine stands, again and again, and passes on what it is told between; when the line is cut it
 * tries again after a while, each time a longer one.
 */
final class LineLink implements MachineLink {

    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final Duration LONGEST_BREAK = Duration.ofSeconds(30);
    private static final int MOST_WAITING = 8;
    private static final Pattern HASH = Pattern.compile("SHA256:([0-9a-fA-F]{64})");
    private static final Pattern WORD = Pattern.compile("([A-Z_0-9]+):(.*?)(?=\\s+[A-Z_0-9]+:|$)");

    private final String host;
    private final int port;
    private final Duration every;
    private final Consumer<MachineEvent> events;
    private final BlockingQueue<Command> commands = new ArrayBlockingQueue<>(MOST_WAITING);
    private final Thread thread;
    private volatile @Nullable Line line;
    private volatile boolean closed;

    /** @param every how often it is asked how it stands */
    LineLink(String host, int port, Duration every, Consumer<MachineEvent> events) {
        this.host = host;
        this.port = port;
        this.every = every;
        this.events = events;
        this.thread = Thread.ofVirtual().name("line to " + host + ":" + port).start(this::run);
    }

    @Override
    public void send(Command command) {
        Line open = line;
        if (open == null) {
            events.accept(new MachineEvent.Refused(command, "it cannot be reached"));
        } else if (command instanceof Command.EmergencyStop) {
            stop(open, command);
        } else if (!commands.offer(command)) {
            events.accept(new MachineEvent.Refused(command, "it is still busy with what it was told before"));
        }
    }

    /** At once, past everything that waits. */
    private void stop(Line open, Command command) {
        try {
            open.urgent("M112");
        } catch (IOException e) {
            events.accept(new MachineEvent.Refused(command, "the line is cut"));
        }
        refuseWhatWaits("it was stopped before");
    }

    private void run() {
        Duration pause = every;
        try {
            while (!closed) {
                try (Line open = new Line(host, port, PATIENCE, this::hear)) {
                    open.begin();
                    Capabilities can = identify(open);
                    commands.clear();
                    line = open;
                    pause = every;
                    follow(open, can);
                } catch (IOException e) {
                    if (!closed) {
                        lost(e);
                    }
                }
                Thread.sleep(pause);
                pause = pause.multipliedBy(2).compareTo(LONGEST_BREAK) < 0 ? pause.multipliedBy(2) : LONGEST_BREAK;
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** What it was told and has not done is refused: nothing is kept for a machine that comes back. */
    private void lost(IOException why) {
        line = null;
        refuseWhatWaits("the line was cut");
        events.accept(new MachineEvent.Lost(sentence(why)));
    }

    private void refuseWhatWaits(String why) {
        List<Command> undone = new ArrayList<>();
        commands.drainTo(undone);
        undone.forEach(command -> events.accept(new MachineEvent.Refused(command, why)));
    }

    private static String sentence(IOException why) {
        return why instanceof ConnectException ? "nobody answers there" : String.valueOf(why.getMessage());
    }

    /** What a machine can, as it says itself. */
    private record Capabilities(boolean hashes, boolean tells) {
    }

    private Capabilities identify(Line open) throws IOException {
        Map<String, String> words = open.ask("M115").stream().flatMap(answer -> WORD.matcher(answer.startsWith("Cap:") ? answer.substring(4) : answer).results())
                .collect(Collectors.toMap(word -> word.group(1), word -> word.group(2), (first, again) -> first));
        Capabilities can = new Capabilities("1".equals(words.get("FILE_SHA256")), "1".equals(words.get("RUN_REPORT")));
        events.accept(new MachineEvent.Reached(words.getOrDefault("UUID", ""), words.getOrDefault("MACHINE_TYPE", ""), can.hashes()));
        return can;
    }

    private void follow(Line open, Capabilities can) throws IOException, InterruptedException {
        while (!closed) {
            events.accept(new MachineReport(can.tells()).of(open));
            Command command = commands.poll(every.toMillis(), TimeUnit.MILLISECONDS);
            if (command != null) {
                carryOut(command, open, can);
            }
        }
    }

    private void carryOut(Command command, Line open, Capabilities can) throws IOException {
        switch (command) {
            case Command.Load load -> load(load, open, can);
            case Command.Start start -> start(start, open, can);
            case Command.Remove(String file) -> tell(command, "M30 " + file, open);
            case Command.Pause pause -> tell(command, "M25", open);
            case Command.Resume resume -> tell(command, "M24", open);
            case Command.Cancel cancel -> tell(command, "M524", open);
            case Command.EmergencyStop stop -> tell(command, "M112", open);
            case Command.Restart restart -> tell(command, "M999", open);
        }
    }

    private boolean tell(Command command, String line, Line open) throws IOException {
        Optional<String> refused = refusal(open.ask(line));
        refused.ifPresent(why -> events.accept(new MachineEvent.Refused(command, why)));
        return refused.isEmpty();
    }

    private static Optional<String> refusal(List<String> answers) {
        return answers.stream().filter(answer -> answer.startsWith(Line.ERROR)).map(answer -> answer.substring(Line.ERROR.length())).findFirst()
                .or(() -> answers.stream().filter(answer -> answer.startsWith("open failed")).map(answer -> "the file is not on its card").findFirst());
    }

    private void load(Command.Load load, Line open, Capabilities can) throws IOException {
        SentFile file;
        try {
            file = SentFile.of(load.content());
        } catch (IllegalArgumentException e) {
            events.accept(new MachineEvent.Refused(load, String.valueOf(e.getMessage())));
            return;
        }
        if (!tell(load, "M28 " + load.file(), open)) {
            return;
        }
        Optional<String> refused = refusal(open.send(file.lines().iterator()));
        if (!tell(load, "M29", open) || refused.isPresent()) {
            refused.ifPresent(why -> events.accept(new MachineEvent.Refused(load, why)));
        } else if (can.hashes() && !hash(load.file(), open).equals(file.sha256())) {
            events.accept(new MachineEvent.Refused(load, "what is on its card is not what was sent"));
        } else {
            events.accept(new MachineEvent.Loaded(load.file(), file.sha256(), can.hashes()));
        }
    }

    private static String hash(String file, Line open) throws IOException {
        return open.ask("M38 " + file).stream().map(HASH::matcher).filter(Matcher::find).map(hash -> hash.group(1)).findFirst().orElse("");
    }

    private void start(Command.Start start, Line open, Capabilities can) throws IOException {
        if (can.hashes() && !hash(start.file(), open).equals(start.sha256())) {
            events.accept(new MachineEvent.Refused(start, "the file on its card has been changed since it was put there"));
        } else if (tell(start, "M23 " + start.file(), open) && tell(start, "M24", open)) {
            events.accept(new MachineEvent.Started(start.file()));
        }
    }

    private void hear(String said) {
        if (said.startsWith("//action:paused")) {
            events.accept(new MachineEvent.Paused(said.substring("//action:paused".length()).strip()));
        } else if (said.startsWith("//action:resumed")) {
            events.accept(new MachineEvent.Resumed());
        } else if (said.startsWith("!!")) {
            events.accept(new MachineEvent.Halted(said.substring(2).strip()));
        }
    }

    @Override
    public void close() {
        closed = true;
        thread.interrupt();
        Line open = line;
        if (open != null) {
            try {
                open.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
