//! The tie between a device and its kitchen: a token, kept in a file where one was given, and until somebody has typed it
//! there the code that the device shows.

use rauchkeller_contract::{PairedDoc, PairingDoc};
use std::path::PathBuf;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

/// How often an unpaired device asks how it stands.
const ASKS: Duration = Duration::from_secs(2);

/// How the tie stands.
#[derive(Debug, Clone, Default)]
struct Tie {
    token: String,
    code: Option<String>,
    paired: bool,
}

/// A device's tie, shared by its sender and its page.
#[derive(Debug, Clone)]
pub struct Link {
    tie: Arc<Mutex<Tie>>,
    memory: Option<PathBuf>,
    about: PairingDoc,
}

impl Link {
    /// With the token given, else the one remembered, else a new one that waits to be paired.
    pub fn new(token: Option<String>, memory: Option<PathBuf>, about: PairingDoc) -> Self {
        let remembered = || memory.as_ref().and_then(|file| std::fs::read_to_string(file).ok()).map(|text| text.trim().to_owned());
        let known = token.or_else(remembered).filter(|token| token.len() >= 40);
        let tie = Tie { paired: known.is_some(), token: known.unwrap_or_else(new_token), code: None };
        Self { tie: Arc::new(Mutex::new(tie)), memory, about }
    }

    /// A thread that died holding it left it whole: every change is a single assignment.
    fn tie(&self) -> MutexGuard<'_, Tie> {
        self.tie.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// The token.
    pub fn token(&self) -> String {
        self.tie().token.clone()
    }

    /// Whether it may speak.
    pub fn is_paired(&self) -> bool {
        self.tie().paired
    }

    /// The code to show, like `K7M 4Q2`; `None` once it is paired, or while the server is away.
    pub fn code(&self) -> Option<String> {
        let code = self.tie().code.clone()?;
        let (first, last) = code.split_at_checked(3)?;
        Some(format!("{first} {last}"))
    }

    /// Forgets its kitchen and waits to be paired anew.
    pub fn forget(&self) {
        *self.tie() = Tie { token: new_token(), ..Tie::default() };
        if let Some(file) = &self.memory {
            let _ = std::fs::remove_file(file);
        }
    }

    /// Asks the server how it stands, until the process ends.
    pub fn pair_with(&self, server: &str) {
        let agent: ureq::Agent =
            ureq::Agent::config_builder().timeout_global(Some(Duration::from_secs(5))).http_status_as_error(false).build().into();
        let url = format!("{}/api/v1/pairings", server.trim_end_matches('/'));
        loop {
            if !self.is_paired() {
                match self.ask(&agent, &url) {
                    Ok(()) => {}
                    Err(error) => tracing::warn!(%error, "no code yet"),
                }
            }
            std::thread::sleep(ASKS);
        }
    }

    fn ask(&self, agent: &ureq::Agent, url: &str) -> Result<(), ureq::Error> {
        let token = self.token();
        let mut answer = agent.post(url).send_json(PairingDoc { token: token.clone(), ..self.about.clone() })?;
        let said: PairedDoc = answer.body_mut().read_json()?;
        let mut tie = self.tie();
        // Forgotten while the answer was on its way.
        if tie.token != token {
            return Ok(());
        }
        (tie.paired, tie.code) = (said.paired, said.code);
        if let Some(file) = self.memory.as_ref().filter(|_| said.paired)
            && let Err(error) = std::fs::write(file, &token)
        {
            tracing::warn!(%error, "the kitchen is forgotten with the next start");
        }
        Ok(())
    }
}

/// 244 random bits.
fn new_token() -> String {
    let half = || uuid::Uuid::new_v4().simple().to_string();
    format!("rk_{}{}", half(), half())
}
