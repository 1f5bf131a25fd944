package fabbrica.web.notice;

/** A way by which notices leave the house. */
interface Channel {

    /** @throws fabbrica.web.platform.Refusal when it could not be delivered now */
    void deliver(Notice notice);
}
