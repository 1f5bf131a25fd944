-- Bodies that are sunk into others hang no longer, and where supports have to stand is measured: all parts are measured again when they are asked for.
delete from inspection;
