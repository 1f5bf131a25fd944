package fabbrica.web.ticket;

/** Where a ticket is; the names are stored. */
public enum TicketState {
    NEW("At the counter", 0),
    SENT_BACK("Sent back", 0),
    DECLINED("Declined", 0),
    WITHDRAWN("Withdrawn", 0),
    ACCEPTED("Accepted, to be planned", 2),
    QUEUED("Waiting for its printer", 3),
    RUNNING("Printing", 3),
    FAILED("Failed, to be tried again", 3),
    PRINTED("Printed, to be handed out", 4),
    HANDED_OUT("Handed out", 5);

    private final String label;
    private final int place;

    TicketState(String label, int place) {
        this.label = label;
        this.place = place;
    }

    public String label() {
        return label;
    }

    /** How many of Counter, Gauge, Plan, Floor and Hand-out lie behind. */
    public int place() {
        return place;
    }

    /** Whether recipe, printer and spool may be chosen. */
    public boolean canBePlanned() {
        return this == ACCEPTED || this == QUEUED || this == FAILED;
    }

    public boolean waits() {
        return this == QUEUED;
    }

    public boolean canBeHandedOut() {
        return this == PRINTED;
    }

    public boolean isHandedOut() {
        return this == HANDED_OUT;
    }

    /** Whether it was put away and may be taken in again. */
    public boolean canBeReopened() {
        return this == SENT_BACK || this == DECLINED || this == WITHDRAWN;
    }

    /** Whether nothing more is to be done on it. */
    public boolean isOver() {
        return canBeReopened() || this == HANDED_OUT;
    }

    /** Whether the request itself may be changed and decided on. */
    public boolean atCounter() {
        return this == NEW;
    }
}
