package fabbrica.cli;

import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** JSON from ordered maps, lists, strings, numbers and booleans. */
final class Json {

    private static final double MICRO = 1e6;

    private Json() {
    }

    /** An object from names and values in turn, in this order. */
    static Map<String, Object> object(Object... namesAndValues) {
        Map<String, Object> object = new LinkedHashMap<>();
        for (int i = 0; i < namesAndValues.length; i += 2) {
            object.put((String) namesAndValues[i], namesAndValues[i + 1]);
        }
        return object;
    }

    static void print(Object value, PrintWriter out) {
        JsonGenerator generator = new JsonFactory().createGenerator(ObjectWriteContext.empty(), out);
        write(value, generator);
        generator.flush();
        out.println();
        out.flush();
    }

    /** Says in one line what is wrong, on the error stream and, when asked for, as JSON. */
    static int refuse(boolean json, String code, String message, PrintWriter out, PrintWriter err) {
        String line = message.lines().findFirst().orElse(code);
        err.println(line);
        if (json) {
            print(error(code, line), out);
        }
        return Fabbrica.WRONG;
    }

    static Map<String, Object> error(String code, String message) {
        return object("error", object("code", code, "message", message));
    }

    private static void write(Object value, JsonGenerator to) {
        switch (value) {
            case null -> to.writeNull();
            case Map<?, ?> map -> {
                to.writeStartObject();
                map.forEach((name, member) -> {
                    to.writeName((String) name);
                    write(member, to);
                });
                to.writeEndObject();
            }
            case List<?> list -> {
                to.writeStartArray();
                list.forEach(element -> write(element, to));
                to.writeEndArray();
            }
            case Integer number -> to.writeNumber(number);
            case Long number -> to.writeNumber(number);
            case java.math.BigDecimal number -> to.writeNumber(number);
            case Double number when !Double.isFinite(number) -> to.writeNull();
            case Double number -> to.writeNumber(Math.round(number * MICRO) / MICRO);
            case Boolean bool -> to.writeBoolean(bool);
            default -> to.writeString(value.toString());
        }
    }
}
