package fabbrica.core.mesh.io;

import java.io.FilterReader;
import java.io.IOException;
import java.io.Reader;

/**
 * XML on its way to the parser, which holds each tag and each comment as a whole: comments are left out, but for their line
 * ends, and no tag, text or instruction is longer than {@value #LONGEST} characters.
 */
final class XmlGuard extends FilterReader {

    private static final int LONGEST = 1 << 20;
    private static final String COMMENT = "<!--";

    /** What the characters belong to. */
    private enum In {
        TEXT, TAG, QUOTES, COMMENT, INSTRUCTION, SECTION, DECLARATION
    }

    private final char[] raw = new char[1 << 13];
    private int at;
    private int end;
    private In in = In.TEXT;
    private char quote;
    /** How much of the start of a comment has been seen, none of it handed on yet. */
    private int opening;
    private char before;
    private char beforeThat;
    private int length;
    /** What is to be handed on before anything else is read. */
    private final StringBuilder held = new StringBuilder();

    XmlGuard(Reader in) {
        super(in);
    }

    @Override
    public int read() throws IOException {
        char[] one = new char[1];
        return read(one, 0, 1) < 0 ? -1 : one[0];
    }

    /** @throws ModelFormatException when something in it is too long */
    @Override
    public int read(char[] into, int from, int most) throws IOException {
        int to = from;
        while (to < from + most) {
            if (!held.isEmpty()) {
                int taken = Math.min(held.length(), from + most - to);
                held.getChars(0, taken, into, to);
                held.delete(0, taken);
                to += taken;
            } else if (at < end || fill(to == from)) {
                to = opening > 0 ? to : takePlain(into, to, from + most);
                if (at < end && to < from + most) {
                    to = take(raw[at++], into, to);
                }
            } else {
                break;
            }
        }
        return to == from && most > 0 ? -1 : to - from;
    }

    /** @param wait whether nothing has been handed on yet, so that it is worth waiting for more */
    private boolean fill(boolean wait) throws IOException {
        if (!wait && !super.in.ready()) {
            return false;
        }
        end = super.in.read(raw, 0, raw.length);
        at = 0;
        if (end < 0 && opening > 0) {
            held.append(COMMENT, 0, opening);
            opening = 0;
            end = 0;
            return true;
        }
        return end > 0;
    }

    /**
     * Hands on what can be seen at once not to need a closer look.
     *
     * @return where the next character goes
     */
    private int takePlain(char[] into, int to, int last) throws IOException {
        int from = at, until = Math.min(end, at + last - to);
        switch (in) {
            case TEXT -> {
                while (at < until && raw[at] != '<') {
                    at++;
                }
            }
            case TAG -> {
                while (at < until && raw[at] != '>' && raw[at] != '"' && raw[at] != '\'' && before != '<') {
                    before = raw[at++];
                }
            }
            case QUOTES -> {
                while (at < until && raw[at] != quote) {
                    at++;
                }
            }
            default -> { }
        }
        int taken = at - from;
        System.arraycopy(raw, from, into, to, taken);
        count(taken);
        return to + taken;
    }

    /** @return where the next character goes */
    private int take(char c, char[] into, int to) throws IOException {
        if (opening > 0) {
            if (c == COMMENT.charAt(opening)) {
                if (++opening == COMMENT.length()) {
                    opening = 0;
                    in = In.COMMENT;
                    before = 0;
                    beforeThat = 0;
                }
                return to;
            }
            for (int i = 0; i < opening; i++) {
                pass(COMMENT.charAt(i));
            }
            held.append(COMMENT, 0, opening).append(c);
            opening = 0;
            pass(c);
            return to;
        }
        if (in == In.COMMENT) {
            boolean over = c == '>' && before == '-' && beforeThat == '-';
            remember(c);
            if (over) {
                begin(In.TEXT);
            }
            if (c != '\n') {
                return to;
            }
        } else if (c == '<' && in == In.TEXT && (at == end || raw[at] == '!')) {
            opening = 1;
            return to;
        } else {
            pass(c);
        }
        into[to] = c;
        return to + 1;
    }

    /** Follows what a character that is handed on begins or ends. */
    private void pass(char c) throws IOException {
        count(1);
        switch (in) {
            case TEXT -> {
                if (c == '<') {
                    begin(In.TAG);
                }
            }
            case TAG -> {
                if (c == '>') {
                    begin(In.TEXT);
                } else if (c == '"' || c == '\'') {
                    quote = c;
                    in = In.QUOTES;
                } else if (before == '<' && (c == '?' || c == '!')) {
                    in = c == '?' ? In.INSTRUCTION : In.DECLARATION;
                }
            }
            case QUOTES -> in = c == quote ? In.TAG : In.QUOTES;
            case INSTRUCTION -> {
                if (c == '>' && before == '?') {
                    begin(In.TEXT);
                }
            }
            case DECLARATION -> {
                if (before == '!' && c == '[') {
                    in = In.SECTION;
                } else if (c == '>') {
                    begin(In.TEXT);
                }
            }
            case SECTION -> {
                if (c == '>' && before == ']' && beforeThat == ']') {
                    begin(In.TEXT);
                }
            }
            case COMMENT -> { }
        }
        remember(c);
    }

    private void count(int characters) throws ModelFormatException {
        length += characters;
        if (length > LONGEST) {
            throw new ModelFormatException("The XML holds a tag or a text of more than %d characters.".formatted(LONGEST));
        }
    }

    private void begin(In next) {
        in = next;
        length = 0;
    }

    private void remember(char c) {
        beforeThat = before;
        before = c;
    }
}
