package fabbrica.web.ticket;

import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.ticket.Ticket.Request;
import java.time.Instant;
import org.springframework.stereotype.Component;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** Reads what a member asks for out of a form; who asks stands elsewhere. */
@Component
public class RequestForm {

    private static final int MOST_COPIES = 1000;

    private final Moments moments;

    RequestForm(Moments moments) {
        this.moments = moments;
    }

    /** The request, by nobody yet; to be used only when the form has no problems. */
    public Request read(FormValues form) {
        int quantity = form.count("quantity", "Quantity");
        Instant neededBy = form.moment("neededBy", "Needed by").map(moments::at).orElse(null);
        if (neededBy != null && neededBy.isBefore(moments.now())) {
            form.problem("The needed-by moment lies in the past.");
        }
        form.made(() -> OutOfRange.check("Quantity", quantity, 1, MOST_COPIES));
        String purpose = form.text("purpose");
        return new Request(null, purpose.isEmpty() ? null : Purpose.valueOf(purpose), neededBy, form.text("materialWish"),
                form.text("colourWish"), quantity, form.text("source"), form.text("designerNotes"));
    }

    /** What stands in the form of a request. */
    public MultiValueMap<String, String> values(Request request) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.set("purpose", request.purpose() == null ? "" : request.purpose().name());
        values.set("neededBy", request.neededBy() == null ? "" : moments.forInput(request.neededBy()));
        values.set("materialWish", request.materialWish());
        values.set("colourWish", request.colourWish());
        values.set("quantity", Integer.toString(request.quantity()));
        values.set("source", request.source());
        values.set("designerNotes", request.designerNotes());
        return values;
    }
}
