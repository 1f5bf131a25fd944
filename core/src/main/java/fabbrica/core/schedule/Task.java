package fabbrica.core.schedule;

/** What a person may be allowed to do at a machine; who may do none of it only watches. */
public enum Task {
    START, CHANGE_FILAMENT, CHANGE_NOZZLE, CLEAR
}
