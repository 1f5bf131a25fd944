package fabbrica.web.platform;

import java.util.ArrayDeque;
import java.util.Deque;
import org.springframework.web.util.HtmlUtils;

/** Writes an SVG drawing, element by element. Whatever text is given is escaped; numbers are written to hundredths. */
public final class Svg {

    private final StringBuilder out = new StringBuilder();
    private final Deque<String> open = new ArrayDeque<>();

    /** A part of a path's data: letters and numbers in turn, numbers to tenths. */
    public static String path(Object... lettersAndNumbers) {
        StringBuilder data = new StringBuilder();
        for (Object part : lettersAndNumbers) {
            if (part instanceof Number number) {
                boolean afterNumber = !data.isEmpty() && Character.isDigit(data.charAt(data.length() - 1));
                data.append(afterNumber ? " " : "").append(number(number, 10));
            } else {
                data.append(part);
            }
        }
        return data.toString();
    }

    /** Begins an element, with names and values of attributes in turn. */
    public Svg open(String element, Object... attributes) {
        begin(element, attributes);
        out.append('>');
        open.push(element);
        return this;
    }

    /** An element without content. */
    public Svg leaf(String element, Object... attributes) {
        begin(element, attributes);
        out.append("/>");
        return this;
    }

    /** An element with text. */
    public Svg text(String element, String content, Object... attributes) {
        open(element, attributes);
        out.append(HtmlUtils.htmlEscape(content));
        return close();
    }

    /** Ends the element that was begun last. */
    public Svg close() {
        out.append("</").append(open.pop()).append('>');
        return this;
    }

    /** All of it, with every element ended. */
    @Override
    public String toString() {
        while (!open.isEmpty()) {
            close();
        }
        return out.toString();
    }

    private void begin(String element, Object... attributes) {
        out.append('<').append(element);
        for (int i = 0; i < attributes.length; i += 2) {
            out.append(' ').append(attributes[i]).append("=\"")
                    .append(attributes[i + 1] instanceof Number number ? number(number, 100) : HtmlUtils.htmlEscape(attributes[i + 1].toString()))
                    .append('"');
        }
    }

    private static String number(Number number, int parts) {
        double rounded = Math.round(number.doubleValue() * parts) / (double) parts;
        return rounded == Math.rint(rounded) ? Long.toString((long) rounded) : Double.toString(rounded);
    }
}
