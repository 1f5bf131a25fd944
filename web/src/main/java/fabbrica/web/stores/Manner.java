package fabbrica.web.stores;

import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;

/** How a printer goes about its work, as somebody would say who stands beside it; the figures are common practice, no source. */
enum Manner {
    STEADY("steadily", "Lines at about 60 mm a second; most printers older than a few years. In doubt this one: what is promised is then kept.",
            like("standard").kinematics(), like("standard").preparation()),
    BRISK("briskly", "Lines at about 120 mm a second; it hums, and its table shakes a little.",
            new Kinematics(300, 3000, new Cornering.AtSpeed(10), 12, 15, 0.8, 35, Board.USUAL.withAccelerations(3000, 3000, 300, 5000)),
            like("standard").preparation()),
    FAST("very fast", "Lines at 250 mm a second and more; it shakes itself for some seconds before each print, to measure how it swings.",
            like("fast").kinematics(), like("fast").preparation());

    private final String label;
    private final String sign;
    private final Kinematics kinematics;
    private final Preparation preparation;

    Manner(String label, String sign, Kinematics kinematics, Preparation preparation) {
        this.label = label;
        this.sign = sign;
        this.kinematics = kinematics;
        this.preparation = preparation;
    }

    private static Printer like(String builtIn) {
        return BuiltIn.printer(builtIn).orElseThrow();
    }

    public String label() {
        return label;
    }

    /** By which one knows it. */
    public String sign() {
        return sign;
    }

    Kinematics kinematics() {
        return kinematics;
    }

    Preparation preparation() {
        return preparation;
    }
}
