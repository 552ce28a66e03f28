//! Every door of the server as a visitor without a browser meets it, on a real MariaDB that `bin/test` starts.

mod api;
mod bench;
mod doors;
mod kit;
mod life;
mod refusals;
mod support;
