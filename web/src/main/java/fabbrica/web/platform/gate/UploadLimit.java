package fabbrica.web.platform.gate;

/** The largest file the lab takes in. */
public interface UploadLimit {

    long limitBytes();
}
