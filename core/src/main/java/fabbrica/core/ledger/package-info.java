/**
 * What the lab's machines did, for whom, and what it came to: hours, plastic and money, promises kept, how long people waited. From runs that have ended and from
 * what was handed out, for the Ledger and for the report to whoever funds the lab.
 */
@NullMarked
package fabbrica.core.ledger;

import org.jspecify.annotations.NullMarked;
