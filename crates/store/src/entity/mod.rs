//! One module a table.

pub(crate) mod appliance;
pub(crate) mod cook;
pub(crate) mod device;
pub(crate) mod dial;
pub(crate) mod event;
pub(crate) mod household;
pub(crate) mod invitation;
pub(crate) mod kit_mix;
pub(crate) mod kit_salt;
pub(crate) mod kit_tool;
pub(crate) mod kit_tray;
pub(crate) mod kit_way;
pub(crate) mod kit_way_version;
pub(crate) mod known_browser;
pub(crate) mod pairing;
pub(crate) mod piece;
pub(crate) mod piece_fold;
pub(crate) mod plan_version;
pub(crate) mod reading;
pub(crate) mod refrigerator;
pub(crate) mod sign_in_failure;
pub(crate) mod warm_spell;
pub(crate) mod web_session;
