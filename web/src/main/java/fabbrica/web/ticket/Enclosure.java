package fabbrica.web.ticket;

import org.jspecify.annotations.Nullable;

/**
 * Something that came with a model in its archive.
 *
 * @param text   of a note or a licence; null of a picture
 * @param sha256 of a picture's file, with its media type; null of a note
 */
public record Enclosure(long id, String name, @Nullable String text, @Nullable String sha256, @Nullable String type) {

    public static Enclosure note(String name, String text) {
        return new Enclosure(0, name, text, null, null);
    }

    public static Enclosure picture(String name, String sha256, String type) {
        return new Enclosure(0, name, null, sha256, type);
    }
}
