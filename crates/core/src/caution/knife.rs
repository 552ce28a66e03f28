//! What knife and pick may do wrong.

use super::{Caution, Severity};
use crate::method::StepKind;
use crate::piece::Species;
use crate::skin::{DepthSays, Fit};
use crate::units::LengthIn;

/// Work with one tool to one depth.
#[derive(Debug, Clone, Copy)]
pub struct Work<'a> {
    /// Why no depth is safe anywhere; `None` where one is.
    pub refused: Option<&'a str>,
    /// What the tool is called.
    pub tool: &'a str,
    /// Whether it reaches; `None` where nothing has to.
    pub fit: Option<Fit>,
    /// What the depth asked for comes to.
    pub says: DepthSays,
}

/// Why meat is no longer intact: what was only outside has come in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NotIntact {
    /// Cut into the lean, here or where it was bought, or an outside rolled in.
    Cut,
    /// Injected by its packer, as the label says.
    Injected,
    /// Opened and filled.
    Filled,
}

impl NotIntact {
    fn words(self) -> &'static str {
        match self {
            Self::Cut => "Cut into the lean, or an outside turned in",
            Self::Injected => "Something was injected, by its label",
            Self::Filled => "Opened and filled",
        }
    }
}

/// What is cut, and how deep.
#[derive(Debug, Clone, Copy)]
pub struct KnifeFacts<'a> {
    /// The step that cuts.
    pub step: StepKind,
    /// The work; `None` where the skin stays whole.
    pub work: Option<Work<'a>>,
    /// Why it is no longer intact; `None` where it is.
    pub not_intact: Option<NotIntact>,
    /// Of which animal: poultry goes to 74 °C.
    pub species: Species,
}

/// No depth, a tool that does not reach or goes too far, the lean near or cut; non-intact meat.
pub fn knife_cautions(facts: &KnifeFacts) -> Vec<Caution> {
    use Severity::{Amber, Red};
    const GUARD: &str = "common practice";
    let mut said = Vec::new();
    let mut say = |code, severity, text: String| said.push(Caution::new(code, severity, text, GUARD, Some(facts.step)));
    if let Some(Work { refused, tool, fit, says }) = facts.work {
        if let Some(text) = refused {
            say("no-depth", Amber, format!("No safe depth: {text}."));
        }
        match fit {
            Some(Fit::TooShort(by)) => {
                let text =
                    format!("The {tool} is {:.1} mm too short to pass the skin: take a longer one before the first cut.", by.in_mm());
                say("tool-short", Amber, text);
            }
            Some(Fit::TooLong(by)) => {
                say(
                    "tool-long",
                    Amber,
                    format!("The {tool} goes {:.1} mm deeper than is safe and cannot be set: take another.", by.in_mm()),
                );
            }
            _ => {}
        }
        match says {
            DepthSays::IntoLean(by) => {
                let text = format!(
                    "That depth goes {:.1} mm into the lean where fat is thinnest: juice comes up and spoils the crackling.",
                    by.in_mm()
                );
                say("into-lean", Red, text);
            }
            DepthSays::InMargin(by) => {
                say("into-margin", Amber, format!("{:.1} mm deeper than is safe at the thinnest place; the lean is near.", by.in_mm()));
            }
            DepthSays::TooShallow(by) => say("too-shallow", Amber, format!("{:.1} mm short of passing the thickest skin.", by.in_mm())),
            DepthSays::Safe => {}
        }
    }
    said.extend(facts.not_intact.map(|why| {
        let why = why.words();
        let text = if facts.species == Species::Poultry {
            format!("{why}: no longer intact meat. At least 74 °C (165 °F) all through; pink preferences do not apply.")
        } else {
            format!("{why}: no longer intact meat. At least 63 °C (145 °F) and 3 min of rest all through; rare preferences do not apply.")
        };
        Caution::new("non-intact", Amber, text, "USDA FSIS, non-intact meat", Some(StepKind::Roast))
    }));
    said
}
