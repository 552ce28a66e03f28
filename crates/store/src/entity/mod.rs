//! One module a table.

pub(crate) mod bowl;
pub(crate) mod by_eye;
pub(crate) mod cook;
pub(crate) mod device;
pub(crate) mod household;
pub(crate) mod invitation;
pub(crate) mod kit_mix;
pub(crate) mod kit_salt;
pub(crate) mod kit_tool;
pub(crate) mod kit_tray;
pub(crate) mod known_browser;
pub(crate) mod pairing;
pub(crate) mod piece;
pub(crate) mod reading;
pub(crate) mod refrigerator;
pub(crate) mod salt_change;
pub(crate) mod sign_in_failure;
pub(crate) mod skin_run;
pub(crate) mod step;
pub(crate) mod touch_check;
pub(crate) mod verdict;
pub(crate) mod warm_spell;
pub(crate) mod web_session;
pub(crate) mod weigh_in;
