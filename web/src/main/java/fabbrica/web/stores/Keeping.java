package fabbrica.web.stores;

import fabbrica.core.units.OutOfRange;

/**
 * How long what members bring is kept, and what is printed for them waits; 0 keeps it for good.
 *
 * @param modelsDays  days that model and sliced files are kept after the last step of their tickets
 * @param photosDays  days that a photo is kept after its run
 * @param membersDays days that a member is known after the last step of any of their tickets
 * @param remindDays  between one reminder of what is printed and the next; 0 reminds never
 * @param shelfDays   after which what nobody collects may be put away
 */
public record Keeping(int modelsDays, int photosDays, int membersDays, int remindDays, int shelfDays) {

    public static final Keeping FOR_GOOD = new Keeping(0, 0, 0, 3, 30);
    private static final int MOST_DAYS = 36_500;

    /** @throws OutOfRange for less than none or more than a hundred years */
    public Keeping {
        OutOfRange.check("Days that models are kept", modelsDays, 0, MOST_DAYS);
        OutOfRange.check("Days that photos are kept", photosDays, 0, MOST_DAYS);
        OutOfRange.check("Days that members are kept", membersDays, 0, MOST_DAYS);
        OutOfRange.check("Days between reminders", remindDays, 0, MOST_DAYS);
        OutOfRange.check("Days on the shelf", shelfDays, 0, MOST_DAYS);
    }

    /** For the Stores. */
    public String spoken() {
        return modelsDays + photosDays + membersDays == 0 ? "models, photos and members are kept for good"
                : "models are kept " + spoken(modelsDays) + ", photos " + spoken(photosDays) + ", members " + spoken(membersDays);
    }

    private static String spoken(int days) {
        return days == 0 ? "for good" : days == 1 ? "for a day" : "for " + days + " days";
    }
}
