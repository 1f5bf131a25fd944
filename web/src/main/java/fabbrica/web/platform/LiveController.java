package fabbrica.web.platform;

import org.springframework.http.MediaType;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The stream of what goes on, for pages that wait for something. */
@Controller
class LiveController {

    private final Live live;

    LiveController(Live live) {
        this.live = live;
    }

    @GetMapping(path = "/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter live() {
        return live.open();
    }
}
