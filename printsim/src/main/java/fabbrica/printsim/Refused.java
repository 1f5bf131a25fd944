package fabbrica.printsim;

/** Something a machine does not do, with the reason as a clause. */
final class Refused extends RuntimeException {

    Refused(String why) {
        super(why);
    }
}
