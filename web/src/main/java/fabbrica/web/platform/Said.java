package fabbrica.web.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.DispatcherServlet;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.FlashMapManager;
import org.springframework.web.servlet.support.SessionFlashMapManager;

/**
 * What a step says on the page it leads to. A place that is filled anew meanwhile, on the page that is left or in another tab, does not
 * take it away.
 */
@Component(DispatcherServlet.FLASH_MAP_MANAGER_BEAN_NAME)
class Said implements FlashMapManager {

    private static final String BY_A_SCRIPT = "HX-Request";

    private final FlashMapManager kept = new SessionFlashMapManager();

    @Override
    public @Nullable FlashMap retrieveAndUpdate(HttpServletRequest request, HttpServletResponse response) {
        return request.getHeader(BY_A_SCRIPT) == null ? kept.retrieveAndUpdate(request, response) : null;
    }

    @Override
    public void saveOutputFlashMap(FlashMap said, HttpServletRequest request, HttpServletResponse response) {
        kept.saveOutputFlashMap(said, request, response);
    }
}
