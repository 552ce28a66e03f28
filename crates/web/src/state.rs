//! What every handler may reach.

use crate::heart::Heart;
use crate::told::Bells;
use jiff::Timestamp;
use rauchkeller_store::Store;
use std::net::IpAddr;
use std::sync::Arc;

/// Settings of a running server.
#[derive(Debug, Clone, Default)]
pub struct Settings {
    /// Address under which browsers reach it, behind a TLS proxy; sets cookies and trusted origin.
    pub public_url: Option<String>,
    /// Address of the demo cook, when this is a demo: one press enters.
    pub demo_cook: Option<String>,
    /// Where the demo's simulated scale has its own page.
    pub demo_scale: Option<String>,
    /// Where a spare simulated scale has its page: one that any kitchen of this server can be paired with.
    pub spare_scale: Option<String>,
    /// Proxies in front whose word of whom they speak for is believed.
    pub proxies: Vec<IpAddr>,
    /// Requests a second that one address may send for long (bursts of five times that are fine); `None` for no limit.
    pub flood_limit: Option<u32>,
}

impl Settings {
    /// Whether browsers speak TLS to us (or to the proxy before us).
    pub fn is_secure(&self) -> bool {
        self.public_url.as_deref().is_some_and(|url| url.starts_with("https://"))
    }
}

/// Shared by all requests; holds no state that another server on the same database would miss.
#[derive(Debug, Clone)]
pub struct AppState {
    /// The database.
    pub store: Store,
    /// Settings.
    pub settings: Arc<Settings>,
    /// Whether the database answers.
    pub heart: Heart,
    /// Pages that are told what changes.
    pub bells: Bells,
}

impl AppState {
    /// A server's state.
    pub fn new(store: Store, settings: Settings) -> Self {
        Self { store, settings: Arc::new(settings), heart: Heart::default(), bells: Bells::default() }
    }

    /// The clock; core is handed this moment and never looks itself.
    pub fn now(&self) -> Timestamp {
        Timestamp::now()
    }
}
