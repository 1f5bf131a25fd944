/**
 * Who is who: accounts with their roles, members with their badges, signing in. For the door and for every place that names
 * people.
 */
@NullMarked
package fabbrica.web.account;

import org.jspecify.annotations.NullMarked;
