package fabbrica.core.mesh.io;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PushbackInputStream;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;

/**
 * Reads XML element by element and nothing beside it: documents with a DOCTYPE are refused, so no entity is ever
 * expanded and nothing outside the stream is opened.
 */
public final class Xml {

    private final XMLStreamReader reader;

    /** @param in in UTF-8, or UTF-16 with its byte order mark; left open */
    public Xml(InputStream in) throws IOException {
        XMLInputFactory factory = XMLInputFactory.newDefaultFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_REPLACING_ENTITY_REFERENCES, false);
        try {
            reader = factory.createXMLStreamReader(decoded(in));
        } catch (XMLStreamException e) {
            throw broken(e);
        }
    }

    /** Decoded here, since the parser reports bytes that are no UTF-8 on the error stream. */
    private static Reader decoded(InputStream in) throws IOException {
        PushbackInputStream start = new PushbackInputStream(in, 2) {
            @Override
            public void close() {
                // An archive's stream goes on after this entry.
            }
        };
        byte[] mark = start.readNBytes(2);
        start.unread(mark);
        boolean wide = mark.length == 2 && (mark[0] == -1 && mark[1] == -2 || mark[0] == -2 && mark[1] == -1);
        return new XmlGuard(new InputStreamReader(start, wide ? StandardCharsets.UTF_16 : StandardCharsets.UTF_8));
    }

    /** Moves to the next start or end of an element; false at the end of the document. */
    public boolean next() throws IOException {
        try {
            while (reader.hasNext()) {
                switch (reader.next()) {
                    case XMLStreamConstants.DTD -> throw new ModelFormatException(
                            "The XML declares a DOCTYPE, which no model needs and Fabbrica never follows.");
                    case XMLStreamConstants.ENTITY_REFERENCE -> throw new ModelFormatException(
                            "The XML uses an entity that is not its own (line %d).".formatted(line()));
                    case XMLStreamConstants.START_ELEMENT, XMLStreamConstants.END_ELEMENT -> {
                        return true;
                    }
                    default -> { }
                }
            }
            return false;
        } catch (XMLStreamException e) {
            throw broken(e);
        } catch (RuntimeException e) {
            throw new ModelFormatException("The XML cannot be read (line %d).".formatted(line()));
        }
    }

    public boolean starts() {
        return reader.isStartElement();
    }

    /** The element's name without its prefix. */
    public String name() {
        return reader.getLocalName();
    }

    /** An attribute by its name without a prefix, or null. */
    public @Nullable String attribute(String name) {
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            if (reader.getAttributeLocalName(i).equals(name)) {
                return reader.getAttributeValue(i);
            }
        }
        return null;
    }

    public String required(String name) throws ModelFormatException {
        String value = attribute(name);
        if (value == null) {
            throw broken("<%s> has no “%s”".formatted(name(), name));
        }
        return value;
    }

    public double number(String attribute) throws ModelFormatException {
        return finite(required(attribute));
    }

    public int index(String attribute) throws ModelFormatException {
        try {
            return Integer.parseInt(required(attribute).strip());
        } catch (NumberFormatException e) {
            throw broken("“%s” is no whole number".formatted(required(attribute)));
        }
    }

    /** The text of the element that starts here, which must hold nothing else; moves to its end. */
    public String text() throws IOException {
        try {
            return reader.getElementText();
        } catch (XMLStreamException e) {
            throw broken(e);
        } catch (RuntimeException e) {
            throw new ModelFormatException("The XML cannot be read (line %d).".formatted(line()));
        }
    }

    public double finite(String word) throws ModelFormatException {
        double value;
        try {
            value = Double.parseDouble(word.strip());
        } catch (NumberFormatException e) {
            throw broken("“%s” is no number".formatted(word));
        }
        if (!Double.isFinite(value)) {
            throw broken("a number is not finite");
        }
        return value;
    }

    public ModelFormatException broken(String what) {
        return new ModelFormatException("In line %d of the XML %s.".formatted(line(), what));
    }

    private int line() {
        return reader.getLocation().getLineNumber();
    }

    private static ModelFormatException broken(XMLStreamException e) {
        if (e.getNestedException() instanceof ModelFormatException reason) {
            return reason;
        }
        int line = e.getLocation() == null ? 0 : e.getLocation().getLineNumber();
        return new ModelFormatException("The XML breaks off or is damaged at line %d.".formatted(line));
    }
}
