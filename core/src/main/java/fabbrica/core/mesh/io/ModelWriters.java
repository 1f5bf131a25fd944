package fabbrica.core.mesh.io;

import fabbrica.core.mesh.io.amf.AmfWriter;
import fabbrica.core.mesh.io.obj.ObjWriter;
import fabbrica.core.mesh.io.ply.PlyWriter;
import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.io.stl.TextStlWriter;
import fabbrica.core.mesh.io.threemf.ThreeMfWriter;
import fabbrica.core.mesh.model.Mesh;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Writes a mesh in millimetres in any format; the counterpart of {@link ModelFiles}. */
public final class ModelWriters {

    private ModelWriters() {
    }

    /** The format that a file name asks for by its ending. */
    public static Optional<ModelFormat> formatOf(String name) {
        return Optional.ofNullable(switch (name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT)) {
            case "stl" -> ModelFormat.STL_BINARY;
            case "obj" -> ModelFormat.OBJ;
            case "ply" -> ModelFormat.PLY;
            case "3mf" -> ModelFormat.THREE_MF;
            case "amf" -> ModelFormat.AMF;
            default -> null;
        });
    }

    public static void write(Mesh mesh, ModelFormat format, String title, OutputStream out) throws IOException {
        switch (format) {
            case STL_BINARY -> BinaryStlWriter.write(mesh, title, out);
            case STL_TEXT -> TextStlWriter.write(mesh, title, out);
            case OBJ -> ObjWriter.write(mesh, title, out);
            case PLY -> PlyWriter.write(mesh, title, out);
            case THREE_MF -> ThreeMfWriter.write(List.of(ThreeMfWriter.Placed.asItLies(mesh, title)), title, out);
            case AMF -> AmfWriter.write(mesh, title, out);
            case GCODE -> throw new IllegalArgumentException("a surface has no lines laid yet");
        }
    }
}
