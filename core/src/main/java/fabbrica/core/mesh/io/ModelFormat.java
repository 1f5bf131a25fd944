package fabbrica.core.mesh.io;

/** The formats of models, by the word used in pages, tables and JSON. */
public enum ModelFormat {
    STL_BINARY("stl-binary", "STL, binary"),
    STL_TEXT("stl-text", "STL, text"),
    OBJ("obj", "OBJ"),
    PLY("ply", "PLY"),
    THREE_MF("3mf", "3MF"),
    AMF("amf", "AMF"),
    /** Not a surface but lines laid already, for one kind of printer: read by {@code core.gcode}. */
    GCODE("gcode", "G-code");

    private final String code;
    private final String label;

    ModelFormat(String code, String label) {
        this.code = code;
        this.label = label;
    }

    public String code() {
        return code;
    }

    public String label() {
        return label;
    }
}
