/** What runs have taught: how reliably machines print, and since when. From runs, for whoever looks after the machines. */
@NullMarked
package fabbrica.web.learn;

import org.jspecify.annotations.NullMarked;
