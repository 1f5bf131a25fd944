package fabbrica.web.platform.events;

/** Published within the transaction in which something happened; whoever goes on from there listens for its end. */
public record Happened(Fact fact, About about) {
}
