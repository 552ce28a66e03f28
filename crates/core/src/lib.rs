//! # rauchkeller-core
//!
//! The rules and the computation of a dry-brining kitchen, and nothing else:
//! no I/O, no clock, no HTML, no SQL. The rooms follow the order of the work.
//!
//! | room | question it answers |
//! |---|---|
//! | [`units`] | what did the cook type, and how is it written in both systems |
//! | [`piece`] | what lies on the board: cut, layers, faces, weight against measures |
//! | [`skin`] | how deep may the knife go, how many holes, how dry is the skin |
//! | [`salt`] | how many grams, on which face, how far have they travelled |
//! | [`method`] | which tasks does this school's document have |
//! | [`work`] | which are they for this piece, and what does each ask |
//! | [`fire`] | when does it leave the heat, and where will the core end |
//! | [`clock`] | what does an hour mean: days, nights, storage, zones |
//! | [`place`] | when does each task start |
//! | [`caution`] | what could hurt somebody, and who says so |
//! | [`verdict`] | how was it, and what to change |
//! | [`ask`] | what was said, and what of it cannot be |
//! | [`settle`] | what lies there, with every guess in its place |
//! | [`say`] | what is to be told of a plan |
//! | [`plan`] | the door that calls the rooms in order |
//! | [`run`] | what happened, and how a piece stands |
//!
//! Every number carries its source: a publication, a publication quoted from memory, common practice
//! without a source, or our own estimate, shown to the cook as one. `TRADE 4.9` is the rule of that number
//! in `docs/TRADE.md`.
#![warn(missing_docs)]

pub mod ask;
pub mod caution;
pub mod clock;
pub mod fire;
pub mod method;
mod numeric;
pub mod piece;
pub mod place;
pub mod plan;
pub mod psychrometrics;
pub mod refusing;
pub mod run;
pub mod salt;
pub mod say;
pub mod settle;
pub mod skin;
pub mod units;
pub mod verdict;
mod words;
pub mod work;
