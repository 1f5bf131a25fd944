package fabbrica.web.platform;

import fabbrica.core.mesh.model.Mesh;

/** The version that made what was derived: inspections and promises carry it. */
public final class CoreVersion {

    private CoreVersion() {
    }

    public static String current() {
        String version = Mesh.class.getPackage().getImplementationVersion();
        return version == null ? "development" : version;
    }
}
