package fabbrica.core.inspect;

import static fabbrica.core.inspect.Severity.BLOCK;
import static fabbrica.core.inspect.Severity.CARE;
import static fabbrica.core.inspect.Severity.NOTE;

import fabbrica.core.inspect.Bodies.Body;
import fabbrica.core.inspect.Bodies.Kind;
import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.inspect.Overhang.Patch;
import fabbrica.core.inspect.Thickness.ThinPlace;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;

/** Judges an {@link Inspection}: which of its numbers somebody has to know on a given machine, worst first. */
public final class Findings {

    /** Below this a side is thinner than one layer or line of any nozzle in use. */
    private static final double SMALLEST_SIDE_MM = 0.2;
    private static final double WORTH_SAYING_MM2 = 1;
    private static final int MOST_PLACES = 12;
    /** Less than a fingertip on the bed, or a foot small for the height: common practice, no source. */

    private final Inspection inspection;
    private final PrintLimits limits;
    private final List<Finding> findings = new ArrayList<>();

    private Findings(Inspection inspection, PrintLimits limits) {
        this.inspection = inspection;
        this.limits = limits;
    }

    public static List<Finding> of(Inspection inspection, PrintLimits limits) {
        Findings judged = new Findings(inspection, limits);
        judged.judgeEdges();
        judged.judgeBodies();
        judged.judgeTriangles();
        judged.judgeSize();
        judged.judgeThickness();
        judged.judgeOverhang();
        judged.judgeStand();
        judged.findings.sort(Comparator.comparing(Finding::severity));
        return List.copyOf(judged.findings);
    }

    private void judgeEdges() {
        Soundness s = inspection.soundness();
        if (s.openEdges() > 0) {
            double longest = s.holes().getFirst().lengthMm();
            add(Code.OPEN_EDGES, BLOCK, s.openEdges(), "The surface is open along %s, in %s, the longest %s mm around."
                            .formatted(Spoken.count(s.openEdges(), "edge"), Spoken.count(s.holes().size(), "loop"),
                                    Spoken.number(longest, 1)),
                    "Where a triangle is missing there is no telling inside from outside: layers come out with gaps.",
                    "Repair it here, or close the holes in the drawing program.", s.places().open());
        }
        if (s.nonManifoldEdges() > 0) {
            add(Code.NON_MANIFOLD, CARE, s.nonManifoldEdges(), "Pieces touch only along a line, at %s."
                            .formatted(Spoken.count(s.nonManifoldEdges(), "edge")),
                    "Surfaces that touch in a line have no thickness there and may print apart or fused.",
                    "Look at these places in the layers; overlap or separate the bodies by 0.1 mm or more.",
                    s.places().nonManifold());
        }
        long turned = s.count(Kind.INSIDE_OUT);
        if (s.inconsistentEdges() > 0 || turned > 0) {
            String edges = s.inconsistentEdges() == 0 ? "" : "Inside and outside are swapped across %s. "
                    .formatted(Spoken.count(s.inconsistentEdges(), "edge"));
            String bodies = turned == 0 ? "" : "%s inside out.".formatted(
                    turned == 1 ? "One body is" : Spoken.count(turned) + " bodies are");
            add(Code.FLIPPED, CARE, s.inconsistentEdges() + turned, (edges + bodies).strip(),
                    "Triangles are wound to say which side is solid; where that is wrong, solid and air change places.",
                    "Repair it here: all of it is turned the same way.", s.places().inconsistent());
        }
        if (s.intersectingPairs() > 0) {
            boolean between = s.betweenBodies() > 0;
            add(Code.INTERSECTING, s.intersectingPairs() > s.betweenBodies() ? CARE : NOTE, s.intersectingPairs(),
                    between ? "Bodies overlap: they hold %s cm³ one by one and %s cm³ as one solid.".formatted(
                                    Spoken.number(inspection.measures().volumeMm3() / 1000, 2),
                                    Spoken.number(inspection.columns().solidMm3() / 1000, 2))
                            : "The surface runs through itself at %s.".formatted(Spoken.count(s.intersectingPairs(), "place")),
                    between ? "Bodies that overlap are printed as one; walls drawn inside the other vanish."
                            : "A surface that cuts itself encloses some places twice and others not at all.",
                    between ? "Nothing, when they belong together. Else move them apart in the drawing program."
                            : "Ask for a clean export; look at these places in the layers.", s.places().crossing());
        }
    }

    private void judgeBodies() {
        Soundness s = inspection.soundness();
        long voids = s.count(Kind.VOID);
        if (voids > 0) {
            double volume = -s.bodies().stream().filter(b -> b.kind() == Kind.VOID).mapToDouble(Body::signedVolumeMm3)
                    .sum();
            add(Code.TRAPPED_VOID, CARE, voids, "%s sealed inside, %s cm³ in all.".formatted(
                            voids == 1 ? "1 hollow is" : Spoken.count(voids) + " hollows are",
                            Spoken.number(volume / 1000, 2)),
                    "Supports in a sealed hollow never come out, and a heavy part may have been meant solid.",
                    "Ask whether it is meant; a hole lets supports or resin out.", places(s, Kind.VOID, "sealed hollow"));
        }
        List<Body> floating = s.floating();
        if (!floating.isEmpty()) {
            add(Code.FLOATING_BODY, CARE, floating.size(), "%s in the air, touching nothing.".formatted(
                            floating.size() == 1 ? "1 body hangs" : Spoken.count(floating.size()) + " bodies hang"),
                    "Nothing carries it while it is printed, and nothing holds it afterwards.",
                    "Bring it down to the bed as a part of its own, or ask what it belongs to.",
                    floating.stream().map(body -> named(body.lowest(), "floating body")).toList());
        }
        if (s.bodies().size() > 1) {
            long swallowed = s.count(Kind.SWALLOWED);
            add(Code.MULTIPLE_BODIES, NOTE, s.bodies().size(), "The file holds %s separate bodies%s.".formatted(
                            Spoken.count(s.bodies().size()), swallowed == 0 ? "" : ", %s of them wholly inside another"
                                    .formatted(Spoken.count(swallowed))),
                    "They may be several parts in one file, or one part whose pieces overlap.",
                    "Ask whether all of them belong together in one print; they can be split here.",
                    s.bodies().stream().map(body -> named(body.lowest(), "body")).toList());
        }
    }

    private static List<Place> places(Soundness s, Kind kind, String label) {
        return s.bodies().stream().filter(body -> body.kind() == kind).map(body -> named(body.lowest(), label)).toList();
    }

    private void judgeTriangles() {
        Soundness s = inspection.soundness();
        if (s.duplicateTriangles() > 0) {
            add(Code.DUPLICATE, CARE, s.duplicateTriangles(), "%s twice.".formatted(s.duplicateTriangles() == 1
                            ? "1 triangle is there" : Spoken.count(s.duplicateTriangles()) + " triangles are there"),
                    "Doubled surfaces confuse which side is inside.", "Repair it here: one of each is kept.", List.of());
        }
        if (s.degenerateTriangles() > 0) {
            add(Code.DEGENERATE, NOTE, s.degenerateTriangles(), "%s without area.".formatted(
                            s.degenerateTriangles() == 1 ? "1 triangle is"
                                    : Spoken.count(s.degenerateTriangles()) + " triangles are"),
                    "Harmless for printing; a sign of a rough export.",
                    "Nothing, unless other findings point to the same place.", s.places().degenerate());
        }
    }

    private void judgeSize() {
        Bounds size = inspection.bounds();
        if (size.smallestSide() < SMALLEST_SIDE_MM) {
            add(Code.TOO_SMALL, BLOCK, 1, "The smallest side measures %s mm.".formatted(
                            Spoken.number(size.smallestSide(), 3)),
                    "That is less than one layer or one line of plastic.", "Check the unit and the scale.", List.of());
        }
        inspection.suspectedUnit().ifPresent(unit -> add(Code.UNIT_SUSPECT, CARE, 1,
                "At %s this is very small; it looks drawn in %s.".formatted(
                        Spoken.size(size.sizeX(), size.sizeY(), size.sizeZ()), unit.plural()),
                "Many files carry no unit: their numbers are read as millimetres. Most parts measure 20 to 500 mm.",
                "Ask the member. " + inspection.unitCandidates().stream().map(other -> readIn(size, other))
                        .collect(Collectors.joining(" ")), List.of()));
    }

    private static String readIn(Bounds size, LengthUnit unit) {
        double factor = unit.millimetres();
        return "Read in %s, %s times larger, it would measure %s.".formatted(unit.plural(), Spoken.number(factor, 1),
                Spoken.size(size.sizeX() * factor, size.sizeY() * factor, size.sizeZ() * factor));
    }

    private void judgeThickness() {
        Thickness thickness = inspection.thickness();
        double line = limits.lineWidthMm(), wall = thickness.thinnestWallMm();
        if (wall < line - 1e-3) {
            add(Code.THIN_WALL, CARE, below(thickness.thinPlaces(), line),
                    "Walls down to %s mm, thinner than one line of %s mm: %s mm² of surface.".formatted(
                            Spoken.number(wall, 2), Spoken.number(line, 2),
                            Spoken.number(thickness.wallAreaThinnerThan(line), 0)),
                    "What is thinner than a line is left out or becomes a single weak thread.",
                    enlarge(line / wall, "a finer nozzle, or thicker walls in the drawing."),
                    thinPlaces(thickness.thinPlaces(), line, "wall"));
        } else if (wall < 2 * line - 1e-3) {
            add(Code.THIN_WALL, NOTE, below(thickness.thinPlaces(), 2 * line),
                    "Walls down to %s mm, less than two lines of %s mm.".formatted(Spoken.number(wall, 2),
                            Spoken.number(line, 2)),
                    "A wall of one line is weak: it snaps when supports come off.",
                    "Say so to the member; handle with care.", thinPlaces(thickness.thinPlaces(), 2 * line, "wall"));
        }
        double gap = thickness.narrowestGapMm();
        if (gap < limits.narrowestGapMm() - 1e-3) {
            add(Code.NARROW_GAP, CARE, below(thickness.gapPlaces(), limits.narrowestGapMm()),
                    "Gaps down to %s mm, narrower than the %s mm this machine keeps open: %s mm² of surface.".formatted(
                            Spoken.number(gap, 2), Spoken.number(limits.narrowestGapMm(), 2),
                            Spoken.number(thickness.gapAreaNarrowerThan(limits.narrowestGapMm()), 0)),
                    "Joints meant to move fuse, and grooves and text close.",
                    enlarge(limits.narrowestGapMm() / gap, "a better tuned machine, or wider gaps in the drawing."),
                    thinPlaces(thickness.gapPlaces(), limits.narrowestGapMm(), "gap"));
        }
    }

    private static String enlarge(double factor, String otherwise) {
        return factor < 10 ? "Scale it to %s %% or more; or %s".formatted(
                Spoken.number(Math.ceil(factor * 100), 0), otherwise)
                : Character.toUpperCase(otherwise.charAt(0)) + otherwise.substring(1);
    }

    private static long below(List<ThinPlace> places, double mm) {
        return Math.max(1, places.stream().filter(place -> place.mm() < mm).count());
    }

    /** Named by their size, as people speak of them: a wall, a strip, or a pin no longer than it is wide. */
    private static List<Place> thinPlaces(List<ThinPlace> places, double mm, String what) {
        return places.stream().filter(place -> place.mm() < mm).map(place -> {
            String size = Spoken.number(place.mm(), 2) + " mm";
            String name = place.lengthMm() < 3 * Math.max(place.mm(), 0.4) ? "small detail " + size
                    : "%s %s, %s × %s mm".formatted(place.widthMm() < 3 * Math.max(place.mm(), 0.4) ? what + " (a strip)"
                            : what, size, Spoken.number(place.lengthMm(), 1), Spoken.number(place.widthMm(), 1));
            return new Place(place.x(), place.y(), place.z(), name);
        }).toList();
    }

    private void judgeOverhang() {
        double steepest = limits.steepestOverhangDeg();
        double hanging = inspection.overhang().areaSteeperThan(steepest);
        double bridged = inspection.overhang().patches().stream().filter(p -> p.isBridge(limits.longestBridgeMm()))
                .mapToDouble(Patch::areaMm2).sum();
        double free = hanging - bridged;
        if (free > WORTH_SAYING_MM2) {
            double first = inspection.overhang().patches().stream().mapToDouble(Patch::lowestZMm).min().orElse(0);
            add(Code.OVERHANG, CARE, 1, "%s mm² hang over air steeper than %s°, the first at %s mm height%s.".formatted(
                            Spoken.number(free, 0), Spoken.number(steepest, 0), Spoken.number(first, 1),
                            bridged > WORTH_SAYING_MM2 ? "; another %s mm² are short bridges".formatted(
                                    Spoken.number(bridged, 0)) : ""),
                    "Plastic laid on air droops; short bridges manage alone.",
                    "Turn the part first. Supports would fill %s.".formatted(
                            Spoken.volume(inspection.columns().supportMm3())),
                    hangingPlaces(false));
        } else if (bridged > WORTH_SAYING_MM2) {
            add(Code.OVERHANG, NOTE, 1, "Bridges only, up to %s mm long.".formatted(Spoken.number(
                            inspection.overhang().patches().stream().mapToDouble(Patch::spanMm).max().orElse(0), 1)),
                    "Short bridges hold without support.", "Look at their undersides after the print.",
                    hangingPlaces(true));
        }
        List<Place> islands = inspection.islands();
        if (!islands.isEmpty()) {
            add(Code.ISLAND, CARE, islands.size(), "%s in mid-air, the lowest at %s mm height.".formatted(
                            islands.size() == 1 ? "1 part of a layer begins"
                                    : Spoken.count(islands.size()) + " parts of layers begin",
                            Spoken.number(islands.getFirst().z() - inspection.bounds().minZ(), 1)),
                    "The first lines there have nothing to lie on and are dragged away.",
                    "Turn the part, or support these places.", islands);
        }
    }

    private List<Place> hangingPlaces(boolean bridges) {
        return inspection.overhang().patches().stream()
                .filter(patch -> patch.isBridge(limits.longestBridgeMm()) == bridges)
                .map(patch -> new Place(patch.x(), patch.y(), patch.z(), bridges
                        ? "bridge of %s mm".formatted(Spoken.number(patch.spanMm(), 1))
                        : "%s mm² over air".formatted(Spoken.number(patch.areaMm2(), 0)))).toList();
    }

    private void judgeStand() {
        Stand stand = inspection.stand();
        Place foot = new Place(stand.massX(), stand.massY(), inspection.bounds().minZ(), "foot");
        if (!stand.stable()) {
            add(Code.TIPS_OVER, CARE, 1, stand.tippingDeg() <= 0
                            ? "It cannot stand like this: its weight is not above what touches the bed."
                            : "It falls over when tilted by %s°.".formatted(Spoken.number(stand.tippingDeg(), 1)),
                    "A tall part on a small foot is knocked over by the nozzle.",
                    "Lay it on a larger face, or hold it with a raft or supports.", List.of(foot));
        }
        Bounds size = inspection.bounds();
        double contact = stand.contactMm2();
        if (stand.smallContact()) {
            add(Code.SMALL_CONTACT, CARE, 1, "Only %s mm² lie on the bed under %s mm of height.".formatted(
                            Spoken.number(contact, contact < 10 ? 1 : 0), Spoken.number(size.sizeZ(), 1)),
                    "Small contact lets go of the bed.", "Turn it onto a larger face, or add a brim.", List.of(foot));
        }
    }

    private static Place named(Place place, String label) {
        return new Place(place.x(), place.y(), place.z(), label);
    }

    private void add(Code code, Severity severity, long count, String message, String why, String advice,
                     List<Place> places) {
        findings.add(new Finding(code, severity, count, message, why, advice,
                places.size() > MOST_PLACES ? places.subList(0, MOST_PLACES) : places));
    }
}
