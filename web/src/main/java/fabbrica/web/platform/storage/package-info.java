/**
 * What the lab keeps and how it is kept whole: the data folder, files by the hash of their content, and the one way into
 * the database, which lets one write at a time and says truly whether it did. Shared by all places.
 */
@NullMarked
package fabbrica.web.platform.storage;

import org.jspecify.annotations.NullMarked;
