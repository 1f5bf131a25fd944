package fabbrica.core.recipe;

import fabbrica.core.bed.Bed;
import fabbrica.core.units.OutOfRange;
import java.util.Set;

/**
 * A machine as the lab has set it up.
 *
 * @param id          stable key, lower case
 * @param filamentMm  filament diameter
 * @param enclosed    whether it has a closed chamber
 * @param maxNozzleC  hottest nozzle, °C
 * @param maxBedC     hottest bed, °C
 * @param materialIds materials the lab allows on it
 * @param ownWay      how the lab has it begin and end
 */
public record Printer(String id, String name, Bed bed, Nozzle nozzle, Kinematics kinematics, Preparation preparation,
                      double filamentMm, boolean enclosed, int maxNozzleC, int maxBedC, Set<String> materialIds,
                      OwnWay ownWay) {

    public Printer {
        OutOfRange.check("Filament diameter", filamentMm, 1, 3.5, "mm");
        OutOfRange.check("Hottest nozzle", maxNozzleC, 150, 500);
        OutOfRange.check("Hottest bed", maxBedC, 0, 200);
        materialIds = Set.copyOf(materialIds);
    }

    /** One that begins and ends the usual way. */
    public Printer(String id, String name, Bed bed, Nozzle nozzle, Kinematics kinematics, Preparation preparation,
                   double filamentMm, boolean enclosed, int maxNozzleC, int maxBedC, Set<String> materialIds) {
        this(id, name, bed, nozzle, kinematics, preparation, filamentMm, enclosed, maxNozzleC, maxBedC, materialIds,
                OwnWay.NONE);
    }

    /** Area of the filament's cross-section in mm². */
    public double filamentAreaMm2() {
        return Math.PI * filamentMm * filamentMm / 4;
    }

    /** Whether its start is the usual one, which purges along the front of the bed. */
    public boolean purgesOnBed() {
        return ownWay.start().isBlank() && preparation.purgeMm3() > 0 && preparation.purgeS() > 0;
    }

    /** The bed as it is free for parts: without the line on which the start purges. */
    public Bed freeBed() {
        return purgesOnBed() ? bed.without(PurgeLine.on(bed).zone()) : bed;
    }

    public Printer with(Nozzle other) {
        return new Printer(id, name, bed, other, kinematics, preparation, filamentMm, enclosed, maxNozzleC, maxBedC,
                materialIds, ownWay);
    }

    public Printer with(Preparation other) {
        return new Printer(id, name, bed, nozzle, kinematics, other, filamentMm, enclosed, maxNozzleC, maxBedC,
                materialIds, ownWay);
    }

    public Printer with(OwnWay other) {
        return new Printer(id, name, bed, nozzle, kinematics, preparation, filamentMm, enclosed, maxNozzleC, maxBedC,
                materialIds, other);
    }

    public Printer with(Kinematics other) {
        return new Printer(id, name, bed, nozzle, other, preparation, filamentMm, enclosed, maxNozzleC, maxBedC,
                materialIds, ownWay);
    }
}
