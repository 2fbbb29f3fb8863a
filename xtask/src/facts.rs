//! Facts on what comes with languages: the public types of the Java runtime, the namespaces of C#'s base library, the modules of Python and
//! Node.js, the packages of Go. Each is asked of a runtime that is installed; the answers are committed beside the languages' tables.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::process::Command;

use anyhow::{Context, ensure};
use vknot_reshape::Code;
use vknot_syntax::{Language, Source, Tree};

const TYPES: &str = include_str!("facts/Types.java");
const NAMESPACES: &str = include_str!("facts/Namespaces.cs");
const MODULES: &str = include_str!("facts/modules.py");
const GLOBALS: &str = include_str!("facts/globals.js");
const BUILT_IN: &str = "console.log('# Node.js ' + process.versions.node.split('.')[0] + ': built-in modules');\n\
    console.log(require('module').builtinModules.filter(name => !name.startsWith('_')).sort().join(' '));\n";

#[derive(clap::Args)]
pub struct Arguments {
    /// Which languages
    #[arg(required = true, value_parser = ["csharp", "go", "java", "javascript", "python"])]
    languages: Vec<String>,
    /// For JavaScript: the folder of the package `typescript`
    #[arg(long, value_name = "FOLDER")]
    typescript: Option<PathBuf>,
    /// For C#: folders of assemblies
    #[arg(long, value_name = "FOLDER")]
    assemblies: Vec<PathBuf>,
}

pub fn run(arguments: &Arguments) -> anyhow::Result<std::process::ExitCode> {
    let work = tempfile::tempdir()?;
    for language in &arguments.languages {
        for (file, text) in facts(language, work.path(), arguments)? {
            let path = Path::new("crates/vknot-reshape/src/languages").join(language).join("facts").join(file);
            ensure!(text.lines().count() > 1, "{} would be empty", path.display());
            std::fs::write(&path, text)?;
            println!("{}", path.display());
        }
    }
    Ok(std::process::ExitCode::SUCCESS)
}

fn facts(language: &str, work: &Path, arguments: &Arguments) -> anyhow::Result<Vec<(&'static str, String)>> {
    let script = |name: &str, text: &str| -> anyhow::Result<PathBuf> {
        let path = work.join(name);
        std::fs::write(&path, text)?;
        Ok(path)
    };
    Ok(match language {
        "java" => vec![("types.txt", output(Command::new("java").arg(script("Types.java", TYPES)?))?)],
        "javascript" => {
            let (modules, globals) = (script("modules.js", BUILT_IN)?, script("globals.js", GLOBALS)?);
            let folder = arguments.typescript.as_ref().context("--typescript says where the package `typescript` is")?;
            let folder = std::path::absolute(folder)?;
            let ask = |what: &str| output(Command::new("node").arg(&globals).arg(&folder).arg(what));
            vec![
                ("modules.txt", output(Command::new("node").arg(modules))?),
                ("globals.txt", ask("globals")?),
                ("members.txt", ask("members")?),
            ]
        }
        "python" => {
            let path = script("modules.py", MODULES)?;
            let ask = |what: &str| output(Command::new("python3").arg(&path).arg(what));
            vec![("modules.txt", ask("modules")?), ("members.txt", ask("members")?)]
        }
        "go" => {
            let version = output(Command::new("go").arg("version"))?;
            let version = version.split("go").nth(2).unwrap_or("").split(' ').next().unwrap_or("").to_owned();
            let all =
                output(Command::new("go").args(["list", "-f", "{{.ImportPath}} {{.Name}}", "std"]).current_dir(work))?;
            let open = all.lines().filter(|line| !line.contains("internal/") && !line.starts_with("vendor/"));
            let open: Vec<&str> = open.filter(|line| !line.contains("/internal ")).collect();
            let members = go_members(&open)?;
            vec![
                ("packages.txt", format!("# Go {version}: standard packages and their names\n{}\n", open.join("\n"))),
                ("members.txt", format!("# Go {version}: what standard packages offer\n{members}")),
            ]
        }
        _ => {
            let (source, program) = (script("Namespaces.cs", NAMESPACES)?, work.join("Namespaces.exe"));
            output(Command::new("mcs").arg(&source).arg(format!("-out:{}", program.display())))?;
            let found = output(Command::new("mono").arg(&program).args(&arguments.assemblies))?;
            vec![("namespaces.txt", format!("# Types, and extension methods, by namespace\n{found}"))]
        }
    })
}

/// Packages of Go that differ between systems, or of which there is too much to list.
const VARYING: [&str; 3] = ["debug/elf", "syscall", "unsafe"];

/// What packages offer: each on a line, with the capital names that its files declare.
fn go_members(packages: &[&str]) -> anyhow::Result<String> {
    let mut members = String::new();
    for package in packages.iter().filter_map(|line| line.split_once(' ')).map(|(path, _)| path) {
        if VARYING.contains(&package) {
            continue;
        }
        let folder = output(Command::new("go").args(["list", "-f", "{{.Dir}}", package]))?;
        let mut names = BTreeSet::new();
        for entry in std::fs::read_dir(folder.trim())? {
            let path = entry?.path();
            let name = path.file_name().unwrap_or_default().to_string_lossy();
            if !name.ends_with(".go") || name.ends_with("_test.go") {
                continue;
            }
            let source = Source::from_text(&path, std::fs::read_to_string(&path)?);
            let language = Language::named("go").context("Go is known")?;
            let tree = Tree::read(&source, language);
            let declared = vknot_reshape::declared(Code::of(&source, &tree), "").unwrap_or_default();
            names.extend(
                declared.places.into_iter().map(|(_, name)| name).filter(|name| name.starts_with(char::is_uppercase)),
            );
        }
        members.push_str(&format!("{package} {}\n", Vec::from_iter(names).join(" ")));
    }
    Ok(members)
}

fn output(command: &mut Command) -> anyhow::Result<String> {
    let output = command.output().with_context(|| format!("{:?} cannot be run", command.get_program()))?;
    ensure!(output.status.success(), "{:?} failed: {}", command.get_program(), String::from_utf8_lossy(&output.stderr));
    Ok(String::from_utf8(output.stdout)?)
}
