-- Notes, licences and pictures that came in an archive beside the models. A picture is a file; of a note the text is kept.
create table enclosure (
    id            integer primary key,
    hand_over_id  integer not null references hand_over(id),
    name          text not null,
    text          text,
    sha256        text,
    type          text,
    check ((text is null) <> (sha256 is null) and (sha256 is null) = (type is null))
) strict;
create index enclosure_of on enclosure(hand_over_id);
create index enclosure_file on enclosure(sha256) where sha256 is not null;
