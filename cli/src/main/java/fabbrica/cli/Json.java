package fabbrica.cli;

import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** JSON from ordered maps, lists, strings, numbers and booleans. */
final class Json {

    private static final double MICRO = 1e6;

    private Json() {
    }

    /** An object from names and values in turn, in this order. */
    static Map<String, Object> object(@Nullable Object... namesAndValues) {
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

    /** Asked one by one: a switch over types is put together at run time, which is a good part of a short command. */
    private static void write(Object value, JsonGenerator to) {
        if (value instanceof Map<?, ?> map) {
            to.writeStartObject();
            map.forEach((name, member) -> {
                to.writeName((String) name);
                write(member, to);
            });
            to.writeEndObject();
        } else if (value instanceof List<?> list) {
            to.writeStartArray();
            list.forEach(element -> write(element, to));
            to.writeEndArray();
        } else if (value instanceof Integer || value instanceof Long) {
            to.writeNumber(((Number) value).longValue());
        } else if (value instanceof java.math.BigDecimal number) {
            to.writeNumber(number);
        } else if (value instanceof Double number && Double.isFinite(number)) {
            to.writeNumber(Math.round(number * MICRO) / MICRO);
        } else if (value instanceof Boolean bool) {
            to.writeBoolean(bool);
        } else if (value == null || value instanceof Double) {
            to.writeNull();
        } else {
            to.writeString(value.toString());
        }
    }
}
