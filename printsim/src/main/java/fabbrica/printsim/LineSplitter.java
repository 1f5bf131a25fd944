package fabbrica.printsim;

/** Puts bytes together to lines, in whatever pieces they come; a line that does not end is thrown away and told once. */
final class LineSplitter {

    static final int LONGEST = 4096;

    /** What becomes of lines. */
    interface Lines {

        /** The bytes hold until it returns. */
        void line(byte[] bytes, int length);

        void tooLong();
    }

    private final byte[] held = new byte[LONGEST];
    private final Lines lines;
    private int length;
    private boolean lost;

    LineSplitter(Lines lines) {
        this.lines = lines;
    }

    void accept(byte[] bytes, int count) {
        for (int i = 0; i < count; i++) {
            byte each = bytes[i];
            if (each == '\n') {
                if (!lost) {
                    lines.line(held, length > 0 && held[length - 1] == '\r' ? length - 1 : length);
                }
                lost = false;
                length = 0;
            } else if (!lost && length == LONGEST) {
                lost = true;
                lines.tooLong();
            } else if (!lost) {
                held[length++] = each;
            }
        }
    }
}
