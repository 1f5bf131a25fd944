package fabbrica.web.platform;

import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.platform.storage.StorageFault;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.NoSuchElementException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.MissingServletRequestParameterException;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.multipart.MultipartException;
import org.springframework.web.multipart.support.MissingServletRequestPartException;
import org.springframework.web.servlet.ModelAndView;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/** Turns whatever goes wrong into a page that says what happened, what is safe, and what to do. */
@ControllerAdvice
class Problems {

    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    private final WayBack wayBack;

    Problems(WayBack wayBack) {
        this.wayBack = wayBack;
    }

    @ExceptionHandler({Refusal.class, OutOfRange.class})
    ModelAndView refused(RuntimeException refusal, HttpServletRequest request) {
        String why = String.valueOf(refusal.getMessage());
        return wayBack.from(request, why + " Nothing was changed.").orElseGet(() -> page(HttpStatus.UNPROCESSABLE_ENTITY, why, "Nothing was changed.", request));
    }

    @ExceptionHandler(MaxUploadSizeExceededException.class)
    ModelAndView tooLarge(HttpServletRequest request) {
        return page(HttpStatus.UNPROCESSABLE_ENTITY, "The file is far over the limit of this lab.",
                "Nothing was stored.", request);
    }

    @ExceptionHandler({NoSuchElementException.class, NoResourceFoundException.class,
            MethodArgumentTypeMismatchException.class})
    ModelAndView missing(HttpServletRequest request) {
        return page(HttpStatus.NOT_FOUND, "There is nothing at this address.",
                "It may have been removed; the list it came from is up to date.", request);
    }

    @ExceptionHandler({IllegalArgumentException.class, MissingServletRequestParameterException.class,
            MissingServletRequestPartException.class})
    ModelAndView strange(HttpServletRequest request) {
        String why = "The form held something that this page does not offer.", safe = "Nothing was changed. Choose from what the page shows.";
        return wayBack.from(request, why + " " + safe).orElseGet(() -> page(HttpStatus.BAD_REQUEST, why, safe, request));
    }

    @ExceptionHandler(org.springframework.dao.DataIntegrityViolationException.class)
    ModelAndView conflict(HttpServletRequest request) {
        String why = "Somebody else changed this a moment ago, or it is still in use elsewhere.", safe = "Nothing was changed. Look at the page again and repeat what is still needed.";
        return wayBack.from(request, why + " " + safe).orElseGet(() -> page(HttpStatus.CONFLICT, why, safe, request));
    }

    /** What was stored before is safe, and nothing of this was. */
    @ExceptionHandler(StorageException.class)
    ModelAndView notStored(StorageException fault, HttpServletRequest request, HttpServletResponse response) {
        LOG.warn("{} {}: {}", request.getMethod(), request.getRequestURI(), fault.fault(), fault.getCause());
        response.setHeader(HttpHeaders.RETRY_AFTER, "5");
        return page(HttpStatus.SERVICE_UNAVAILABLE, fault.sentence(), "Nothing was changed; all that was stored before is safe.",
                request);
    }

    /** A file, or a part of a form, that could not be read or written. */
    @ExceptionHandler({MultipartException.class, IOException.class, UncheckedIOException.class})
    ModelAndView notWritten(Exception failed, HttpServletRequest request, HttpServletResponse response) throws Exception {
        StorageFault fault = StorageFault.behind(failed);
        if (fault != StorageFault.OTHER) {
            return notStored(new StorageException(fault, failed), request, response);
        }
        if (failed instanceof MultipartException) {
            return strange(request);
        }
        throw failed;
    }

    @ExceptionHandler(OutOfMemoryError.class)
    ModelAndView outOfMemory(OutOfMemoryError error, HttpServletRequest request) {
        LOG.error("{} {}", request.getMethod(), request.getRequestURI(), error);
        return page(HttpStatus.SERVICE_UNAVAILABLE, "The server has too little memory left for this.",
                "All that was stored before is safe. Try again when less is going on, or with a smaller file.", request);
    }

    /** A fragment asked for by a script shows the sentence in place; a page shows it as a page. */
    private static ModelAndView page(HttpStatus status, String happened, String safe, HttpServletRequest request) {
        LOG.debug("{} {}: {}", request.getMethod(), request.getRequestURI(), happened);
        boolean fragment = request.getHeader("HX-Request") != null;
        ModelAndView page = new ModelAndView(fragment ? "problem :: notice" : "problem");
        page.addObject("happened", happened);
        page.addObject("safe", safe);
        page.setStatus(fragment ? HttpStatus.OK : status);
        return page;
    }
}
