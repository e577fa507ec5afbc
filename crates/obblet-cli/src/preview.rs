//! `obblet preview`: documents in a browser while one works on them.

use crate::arguments::PreviewArguments;
use crate::failure::{Code, Failure};
use crate::house::{chosen, settings};
use crate::talk::say;
use obblet_publish::{Preview, PublishOptions};

pub(crate) fn run(arguments: &PreviewArguments) -> Result<Code, Failure> {
    let options = PublishOptions {
        house: chosen(&arguments.house)?,
        follow_folder_houses: arguments.house.house.is_none(),
        settings: settings(&arguments.house.settings)?,
        ..PublishOptions::default()
    };
    let preview = Preview::open(&arguments.path, &options, arguments.port)?;
    say(&format!("The preview is at {}", preview.address()));
    say("It shows everything anew when something changes. Ctrl-C ends it.");
    let stop = preview.stopper();
    // Where there is no such key, one ends it in another way.
    let _ = ctrlc::set_handler(stop);
    preview.serve()?;
    Ok(Code::Done)
}
