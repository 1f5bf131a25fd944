package fabbrica.web.demo;

import static fabbrica.core.mesh.model.Shapes.disc;
import static fabbrica.core.mesh.model.Shapes.extrusion;
import static fabbrica.core.mesh.model.Shapes.polygon;
import static fabbrica.core.mesh.model.Shapes.rectangle;
import static fabbrica.core.mesh.model.Shapes.revolution;
import static fabbrica.core.mesh.model.Shapes.together;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.repair.Split;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.Polygon;

/** Parametric models of the demo, all of our own invention. Millimetres unless said otherwise. */
final class DemoModels {

    private DemoModels() {
    }

    static Mesh shelfBracket() {
        Polygon profile = polygon(0, 0, 60, 0, 60, 6, 12, 6, 6, 12, 6, 60, 0, 60);
        return extrusion(profile, 24);
    }

    static Mesh coaster() {
        return revolution(new double[] {0, 0, 44, 0, 45, 2, 45, 5, 42, 5, 41, 3, 0, 3}, 48);
    }

    static Mesh wallHook() {
        return extrusion(polygon(0, 0, 46, 0, 46, 14, 40, 14, 40, 6, 6, 6, 6, 40, 0, 40), 12);
    }

    static Mesh mountingPlate() {
        Geometry plate = rectangle(0, 0, 80, 40);
        for (double x : new double[] {10, 70}) {
            for (double y : new double[] {10, 30}) {
                plate = plate.difference(disc(x, y, 2.6, 32));
            }
        }
        return extrusion((Polygon) plate, 4);
    }

    /** A conical pot with a drain hole and 2.4 mm walls. */
    static Mesh planter() {
        return revolution(new double[] {6, 0, 26, 0, 34, 44, 31.6, 44, 23.8, 3, 6, 3}, 64);
    }

    static Mesh gear() {
        int teeth = 18;
        double[] outline = new double[8 * teeth];
        for (int tooth = 0; tooth < teeth; tooth++) {
            double[][] corners = {{0.00, 19}, {0.28, 19}, {0.40, 23}, {0.78, 23}};
            for (int corner = 0; corner < 4; corner++) {
                double angle = 2 * Math.PI * (tooth + corners[corner][0]) / teeth;
                outline[8 * tooth + 2 * corner] = corners[corner][1] * Math.cos(angle);
                outline[8 * tooth + 2 * corner + 1] = corners[corner][1] * Math.sin(angle);
            }
        }
        return extrusion((Polygon) polygon(outline).difference(disc(0, 0, 4.1, 48)), 9);
    }

    /** Box and lid side by side: two bodies. */
    static Mesh hingeBox() {
        Polygon frame = (Polygon) rectangle(0, 0, 70, 50).difference(rectangle(2, 2, 68, 48));
        Mesh walls = extrusion(frame, 28);
        Mesh floor = extrusion(rectangle(1, 1, 69, 49), 2);
        Mesh lid = extrusion(rectangle(0, 56, 70, 106), 3);
        return together(walls, floor, lid);
    }

    static Mesh phoneStand() {
        return extrusion(polygon(0, 0, 78, 0, 78, 5, 26, 5, 52, 74, 46, 76, 18, 5, 8, 5, 8, 12, 0, 12), 62);
    }

    /** A round little bird on a foot. */
    static Mesh bird() {
        return revolution(new double[] {0, 0, 12, 0, 12, 3, 8, 5, 14, 10, 18, 18, 18, 26, 14, 34, 10, 38, 12, 44, 11, 50,
                7, 54, 0, 56}, 72);
    }

    static Mesh keyTag() {
        Polygon tag = (Polygon) rectangle(0, 0, 46, 18).buffer(3, 6).difference(disc(4, 9, 3, 32));
        return extrusion(tag, 3);
    }

    static Mesh cableComb() {
        Geometry comb = rectangle(0, 0, 64, 16);
        for (int slot = 0; slot < 6; slot++) {
            comb = comb.difference(rectangle(6 + 10 * slot, 6, 10 + 10 * slot, 17));
        }
        return extrusion((Polygon) comb, 8);
    }

    /** A lamp cap from which two triangles are missing. */
    static Mesh lampCapWithHole() {
        return Shapes.without(revolution(new double[] {0, 0, 30, 0, 30, 8, 14, 30, 0, 30}, 48), 40, 171);
    }

    /** A drawer knob drawn in inches: 1.5 inches wide. */
    static Mesh knobInInches() {
        return revolution(new double[] {0, 0, 12, 0, 9, 8, 16, 16, 19, 24, 14, 28, 0, 28}, 64).scaled(1 / 25.4);
    }

    /** Longer than every bed but the largest. */
    static Mesh blindRail() {
        return extrusion(polygon(0, 0, 336, 0, 336, 22, 330, 28, 6, 28, 0, 22), 14);
    }

    /** A figure with a gallery that hangs over and a dome. */
    static Mesh lighthouse() {
        double[] profile = new double[2 * 22];
        double[] foot = {0, 0, 20, 0, 20, 3, 14, 7, 10, 50, 15, 55, 15, 58, 9, 58, 9, 68, 11, 68, 11, 70};
        System.arraycopy(foot, 0, profile, 0, foot.length);
        for (int i = 0; i < 11; i++) {
            double angle = Math.PI / 2 * (i + 1) / 11;
            profile[foot.length + 2 * i] = i == 10 ? 0 : 10 * Math.cos(angle);
            profile[foot.length + 2 * i + 1] = 70 + 9 * Math.sin(angle);
        }
        return revolution(profile, 64);
    }

    /** Its cap hangs over air. */
    static Mesh mushroom() {
        return revolution(new double[] {0, 0, 14, 0, 9, 30, 9, 38, 30, 38, 28, 48, 18, 58, 0, 62}, 64);
    }

    /** A specimen for each finding, by the name of its file. */
    static Map<String, Mesh> troubles() {
        Mesh block = Shapes.box(24, 18, 12);
        Map<String, Mesh> troubles = new LinkedHashMap<>();
        troubles.put("block-without-lid.stl", Shapes.without(block, 0, 2));
        troubles.put("steps-that-meet-in-an-edge.obj", together(block, block.moved(24, 18, 0)));
        troubles.put("cube-turned-inside-out.ply", overturned(block));
        troubles.put("sliver.obj", withSliver(block));
        troubles.put("label-drawn-twice.obj", together(block, tile(), tile()));
        troubles.put("crossed-bars.3mf", Split.joined(List.of(Shapes.box(40, 8, 8), Shapes.box(8, 40, 8).moved(16, -16, 2))));
        troubles.put("ball-in-a-box.3mf", Split.joined(List.of(Shapes.box(30, 30, 30),
                overturned(Shapes.sphere(11, 36, 19)).moved(15, 15, 15))));
        troubles.put("hovering-lid.3mf", Split.joined(List.of(block, Shapes.box(24, 18, 2).moved(0, 0, 16))));
        troubles.put("thimble-in-inches.stl", revolution(new double[] {7, 0, 9, 0, 7, 20, 0, 22, 0, 20, 5, 19}, 48).scaled(1 / 25.4));
        troubles.put("garden-gnome-of-a-metre.stl", bird().scaled(18));
        troubles.put("foil.stl", Shapes.box(40, 30, 0.1));
        troubles.put("lampshade-of-paper.stl", revolution(new double[] {19.7, 0, 20, 0, 26, 40, 25.7, 40}, 72));
        troubles.put("tight-hinge.3mf", Split.joined(List.of(revolution(new double[] {5.15, 0, 9, 0, 9, 14, 5.15, 14}, 72),
                revolution(new double[] {0, 0, 5, 0, 5, 18, 0, 18}, 72))));
        troubles.put("funnel-on-its-tip.stl", revolution(new double[] {4, 0, 5.5, 0, 5.5, 8, 30, 34, 28, 34, 4, 8.5}, 60));
        troubles.put("hook-with-a-drop.amf", extrusion(polygon(0, 0, 8, 0, 8, 30, 26, 30, 26, 14, 32, 14, 32, 38, 0, 38), 8)
                .turned(Rotation.bringingDown(0, -1, 0)));
        troubles.put("spinning-top.stl", revolution(new double[] {0, 0, 3, 3, 20, 18, 20, 22, 4, 26, 4, 40, 0, 40}, 48));
        troubles.put("flagpole.stl", Shapes.cylinder(3, 110, 32));
        return troubles;
    }

    private static Mesh overturned(Mesh mesh) {
        MeshBuilder builder = new MeshBuilder(mesh.triangleCount());
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int[] corners = new int[3];
            for (int i = 0; i < 3; i++) {
                int v = mesh.corner(t, 2 - i);
                corners[i] = builder.vertex(mesh.x(v), mesh.y(v), mesh.z(v));
            }
            builder.triangle(corners[0], corners[1], corners[2]);
        }
        return builder.build();
    }

    private static Mesh tile() {
        return new Mesh(new double[] {0, 0, 12, 24, 0, 12, 24, 18, 12}, new int[] {0, 1, 2});
    }

    /** A triangle whose corners lie in one line, on an edge of the mesh. */
    private static Mesh withSliver(Mesh mesh) {
        return Split.joined(List.of(mesh, new Mesh(new double[] {0, 0, 12, 24, 0, 12, 12, 0, 12}, new int[] {0, 1, 2})));
    }
}
