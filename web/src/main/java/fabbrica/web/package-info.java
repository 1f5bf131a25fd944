/** The application: where it starts. Every package below is a place of the workshop, or what all of them stand on. */
@NullMarked
package fabbrica.web;

import org.jspecify.annotations.NullMarked;
