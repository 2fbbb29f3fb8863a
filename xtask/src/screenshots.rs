//! `screenshots`: the pictures in docs/screenshots and the commands behind them.

use std::path::{Path, PathBuf};
use std::process::{Command, ExitCode};

use anyhow::{bail, Context};

/// Name of the picture, folder of the sample's copy it is taken in, command.
const PICTURES: &[(&str, &str)] = &[
    ("outline", "vknot outline firmware/Station.cpp web/index.html rules/surge.rkt"),
    ("fold", "vknot fold analysis/surge.py --except conditional,section,type; vknot fold desktop/tides.pas:35 --peek"),
    (
        "pairs",
        "vknot pairs src/Gauge.java:59; vknot pairs src/surge.rs:32; vknot pairs web/index.html:20; vknot pairs analysis/spectrum.m:7; vknot pairs src/Reading.java",
    ),
    ("select", "vknot select src/Gauge.java:47:48; vknot select data/stations.json:5:180"),
    ("format", "vknot format src/Reading.java; vknot format src/surge.rs:21-27"),
    ("indent", "vknot indent --show src/Gauge.java:14-38; vknot indent rules/surge.rkt"),
    ("imports", "vknot imports src/surge.rs; vknot imports --check ."),
    (
        "edit",
        "vknot edit wrap src/Gauge.java:46-47 --in 'if (correct) { _ }'; vknot edit swap src/Gauge.java:38:25; vknot edit lift web/index.html:18:22",
    ),
    ("todos", "vknot todos ."),
    ("sections", "vknot sections analysis docs; vknot sections docs/guide.md@Withdrawing; vknot region list ."),
    (
        "pin",
        "vknot pin add firmware/gauge.c@gauge_sample --name sampler --note 'ask the harbour'; vknot pin add rules/surge.rkt:15-22 --name worst; \
         (echo '// gauge'; cat firmware/gauge.c) > new; mv new firmware/gauge.c; echo '#lang racket' > rules/surge.rkt; vknot pin list",
    ),
    ("style_show", "vknot style show web/board.css; vknot style show src/New.java --set-only"),
    (
        "style_relevant",
        "vknot style relevant src/Gauge.java:46-47; vknot style relevant src/Gauge.java:50-54 --key vknot_indent_case --beside",
    ),
    (
        "style_preview",
        "vknot style preview vknot_brace_control=next src/Gauge.java:50-54; vknot style explain vknot_brace_required",
    ),
    ("style_learn", "vknot style learn firmware --anew --all"),
    ("demo", "vknot demo | head -46"),
];

#[derive(clap::Args)]
pub struct Arguments {
    /// A program that takes a picture of a terminal: called with the picture's path and a shell command
    #[arg(long, value_name = "PROGRAM")]
    camera: Option<PathBuf>,
    /// Only this picture
    #[arg(long, value_name = "NAME")]
    only: Option<String>,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<ExitCode> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..").canonicalize()?;
    let Some(camera) = &arguments.camera else {
        PICTURES.iter().for_each(|(name, command)| println!("docs/screenshots/{name}.png: {command}"));
        return Ok(ExitCode::SUCCESS);
    };
    let program = std::env::current_exe()?.with_file_name("vknot");
    if !program.exists() {
        bail!("{} is not built; run `cargo build --release` first", program.display());
    }
    let desk = tempfile::tempdir()?;
    for (name, command) in PICTURES
        .iter()
        .filter(|(name, _)| arguments.only.as_deref().is_none_or(|only| only == *name))
    {
        let folder = desk.path().join(name);
        let status = Command::new("cp").arg("-r").arg(root.join("demo")).arg(&folder).status()?;
        let picture = root.join("docs/screenshots").join(format!("{name}.png"));
        let path = program.parent().unwrap_or(&root).display().to_string();
        let taken = Command::new(camera)
            .arg(&picture)
            .arg(command)
            .current_dir(&folder)
            .env("PATH", format!("{path}:{}", std::env::var("PATH").unwrap_or_default()))
            .env("XDG_STATE_HOME", desk.path().join("state"))
            .status()
            .with_context(|| format!("cannot run {}", camera.display()))?;
        if !(status.success() && taken.success()) {
            bail!("{name} could not be taken");
        }
        println!("{}", picture.display());
    }
    Ok(ExitCode::SUCCESS)
}
