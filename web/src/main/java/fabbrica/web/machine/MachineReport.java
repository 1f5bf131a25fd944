package fabbrica.web.machine;

import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Ended;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Spent;
import fabbrica.core.run.MachineEvent.Warmth;
import java.io.IOException;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/**
 * Asks a machine how it stands.
 *
 * @param tells whether it tells all in one line of JSON (M408 of the RepRap project's G-code list); else it is put together from what it answers to
 *              M105 and M27
 */
record MachineReport(boolean tells) {

    private static final ObjectMapper JSON = new ObjectMapper();
    private static final Pattern NOZZLE = Pattern.compile("T0?:\\s*(-?[\\d.]+)\\s*/\\s*([\\d.]+)");
    private static final Pattern BED = Pattern.compile("B:\\s*(-?[\\d.]+)\\s*/\\s*([\\d.]+)");
    private static final Pattern BYTES = Pattern.compile("SD print.* (\\d{1,12})/(\\d{1,12})");

    /** @throws IOException when what it answers makes no sense */
    Reported of(Line line) throws IOException {
        try {
            return tells ? told(line.ask("M408 S0")) : pieced(String.join(" ", line.ask("M105")), line.ask("M27"), line.ask("M27 C"));
        } catch (NumberFormatException | JacksonException | IllegalStateException e) {
            throw new IOException("its answers make no sense", e);
        }
    }

    private static Reported told(List<String> answers) {
        JsonNode json = JSON.readTree(answers.stream().filter(answer -> answer.startsWith("{")).findFirst().orElseThrow(IllegalStateException::new));
        Doing doing = switch (json.path("status").asString("")) {
            case "P", "B" -> Doing.PRINTING;
            case "A", "S", "D" -> Doing.PAUSED;
            case "H" -> Doing.STOPPED;
            default -> Doing.NOTHING;
        };
        JsonNode last = json.path("last");
        return new Reported(new Warmth(json.path("heaters").path(1).asDouble(0), json.path("active").path(1).asDouble(0), json.path("heaters").path(0).asDouble(0),
                json.path("active").path(0).asDouble(0)), doing, json.path("file").asString(""), json.path("byte").asLong(0), json.path("bytes").asLong(0),
                json.path("currentLayer").asInt(0), json.path("extrRaw").path(0).asDouble(0), last.isMissingNode() ? null : ended(last), false);
    }

    private static Ended ended(JsonNode last) {
        return new Ended(last.path("file").asString(""), last.path("whole").asBoolean(false), last.path("layer").asInt(0), last.path("filamentMm").asDouble(0),
                last.path("seconds").asDouble(0), !last.has("heating") ? null
                : new Spent(last.path("heating").asDouble(0), last.path("readying").asDouble(0), last.path("paused").asDouble(0)));
    }

    private static Reported pieced(String temperatures, List<String> progress, List<String> current) {
        Matcher nozzle = NOZZLE.matcher(temperatures), bed = BED.matcher(temperatures), bytes = BYTES.matcher(String.join(" ", progress));
        boolean nozzleTold = nozzle.find(), bedTold = bed.find(), printing = bytes.find();
        String file = current.stream().filter(answer -> answer.startsWith("Current file:")).map(answer -> answer.substring("Current file:".length()).strip())
                .filter(name -> !name.startsWith("(")).findFirst().orElse("");
        @Nullable Ended unknown = null;
        return new Reported(new Warmth(nozzleTold ? Double.parseDouble(nozzle.group(1)) : 0, nozzleTold ? Double.parseDouble(nozzle.group(2)) : 0,
                bedTold ? Double.parseDouble(bed.group(1)) : 0, bedTold ? Double.parseDouble(bed.group(2)) : 0),
                !printing ? Doing.NOTHING : bytes.group().contains("paused") ? Doing.PAUSED : Doing.PRINTING, printing ? file : "",
                printing ? Long.parseLong(bytes.group(1)) : 0, printing ? Long.parseLong(bytes.group(2)) : 0, 0, 0, unknown, false);
    }
}
