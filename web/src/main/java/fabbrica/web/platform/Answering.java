package fabbrica.web.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Counts what is being answered at this moment. A stream that stays open is not. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class Answering extends OncePerRequestFilter {

    private final AtomicInteger underWay = new AtomicInteger();

    int underWay() {
        return underWay.get();
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain) throws ServletException, IOException {
        underWay.incrementAndGet();
        try {
            chain.doFilter(request, response);
        } finally {
            underWay.decrementAndGet();
        }
    }
}
