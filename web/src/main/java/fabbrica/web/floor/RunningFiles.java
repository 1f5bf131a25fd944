package fabbrica.web.floor;

import fabbrica.web.machine.CarriedFiles;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.Plates;
import java.io.IOException;
import org.springframework.stereotype.Component;

/** The files of plates that people start by hand. */
@Component
class RunningFiles implements CarriedFiles {

    private final Plates plates;
    private final PlateFiles files;

    RunningFiles(Plates plates, PlateFiles files) {
        this.plates = plates;
        this.files = files;
    }

    @Override
    public byte[] content(long plateId) throws IOException {
        return files.content(plates.plate(plateId));
    }
}
