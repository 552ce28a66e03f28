//! The real binary, the real database, the real browser. `bin/test` starts what these need.

mod axe;
mod chill;
mod cli;
mod components;
mod doors;
mod evening;
mod failure;
mod heat;
mod household;
mod job;
mod knife;
mod overlap;
mod own_way;
mod paper;
mod print;
mod run;
mod salt;
mod schools;
mod strangers;
mod support;
mod together;
mod typed;
mod units;
mod warm;
mod words;
