//! The real binary, the real database, the real browser. `bin/test` starts what these need.

mod api;
mod axe;
mod cli;
mod doors;
mod evening;
mod failure;
mod household;
mod job;
mod kit;
mod knife;
mod paper;
mod print;
mod rest;
mod salt;
mod support;
mod typed;
mod warm;
mod words;
