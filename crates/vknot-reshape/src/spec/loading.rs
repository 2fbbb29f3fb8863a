//! Which modules of a project load which, and where that makes the order of imports matter: loading a module runs it, and modules that
//! load each other in a circle find one another half made, by where the circle is entered.

use std::collections::{HashMap, HashSet};

/// What of a module's loads stands in front of a name that may be a module inside it: `tide:level` loads `tide.level` if there is one,
/// else takes `level` from `tide`.
pub(crate) const INSIDE: char = ':';

/// The modules of a project, each with those it loads when it is loaded.
#[derive(Clone, Debug, Default)]
pub(super) struct Loading {
    modules: HashMap<String, u32>,
    /// What modules stand in without being one that has a file.
    folders: HashSet<String>,
    /// Modules by the last part of their names.
    by_last: HashMap<String, Vec<(String, u32)>>,
    names: Vec<String>,
    loads: Vec<Vec<u32>>,
    /// The circle that a module is in, if it is in one.
    circles: Vec<Option<u32>>,
}

/// What an import loads: all modules, and at which module it comes into each circle.
#[derive(Clone, Debug, Default)]
pub(crate) struct Loaded {
    modules: HashSet<u32>,
    entries: HashMap<u32, u32>,
    /// The number of the module that asks.
    asking: Option<u32>,
}

impl Loaded {
    /// Whether it comes back to the module that asks: all that stands in front of it may be needed then.
    pub fn comes_back(&self) -> bool {
        self.asking.is_some_and(|asking| self.modules.contains(&asking))
    }

    /// Whether it comes into any circle.
    pub fn meets_circles(&self) -> bool {
        !self.entries.is_empty()
    }

    /// Whether both come into some circle, and not at the same module: which of them is first may matter.
    pub fn clashes(&self, other: &Loaded) -> bool {
        let (few, many) = if self.entries.len() < other.entries.len() { (self, other) } else { (other, self) };
        few.entries.iter().any(|(circle, entry)| many.entries.get(circle).is_some_and(|other| other != entry))
    }
}

impl Loading {
    /// Of modules with what they load, by name. Of two modules of one name the second is a part of the first.
    pub fn of(modules: &[(String, Vec<String>)]) -> Loading {
        let mut loading = Loading::default();
        for (name, _) in modules {
            let number = loading.modules.len() as u32;
            if loading.modules.contains_key(name) {
                continue;
            }
            loading.modules.insert(name.clone(), number);
            loading.names.push(name.clone());
            loading.folders.extend(name.match_indices('.').map(|(at, _)| name[..at].to_owned()));
            let last = last(name).to_owned();
            loading.by_last.entry(last).or_default().push((name.clone(), number));
        }
        let mut loads: Vec<Vec<u32>> = vec![Vec::new(); loading.modules.len()];
        for (name, loaded) in modules {
            let found: Vec<u32> = loaded.iter().flat_map(|load| loading.found(load)).collect();
            if let Some(own) = loading.modules.get(name).and_then(|number| loads.get_mut(*number as usize)) {
                own.extend(found);
            }
        }
        // What holds a module is loaded before it: taking names from that loads nothing.
        let inwards = |(own, loads): (usize, &Vec<u32>)| loads
            .iter()
            .copied()
            .filter(|to| !loading.holds(*to, own as u32))
            .collect();
        loading.circles = circles(&loads.iter().enumerate().map(inwards).collect::<Vec<Vec<u32>>>());
        loading.loads = loads;
        loading
    }

    /// Whether a module is a package that holds another one. Modules that are called by their paths hold none.
    fn holds(&self, package: u32, module: u32) -> bool {
        let name = |number: u32| self.names.get(number as usize).map_or("", String::as_str);
        between(name(package)) == '.'
            && name(module).strip_prefix(name(package)).is_some_and(|rest| rest.starts_with('.'))
    }

    /// The modules that are meant by what is loaded: that of the name, else those whose names end with it.
    fn found(&self, load: &str) -> Vec<u32> {
        match load.split_once(INSIDE) {
            Some((module, name)) => {
                let path = format!("{module}.{name}");
                let inside = self.named(&path);
                if inside.is_empty() && !self.folders.contains(&path) { self.named(module) } else { inside }
            }
            None => self.named(load),
        }
    }

    fn named(&self, name: &str) -> Vec<u32> {
        if let Some(number) = self.modules.get(name) {
            return vec![*number];
        }
        let alike = self.by_last.get(last(name)).map_or(&[][..], Vec::as_slice);
        let ends = |whole: &str| {
            whole.strip_suffix(name).is_some_and(|front| front.ends_with('.') || name.starts_with('/'))
        };
        alike.iter().filter(|(whole, _)| ends(whole)).map(|(_, number)| *number).collect()
    }

    /// What is loaded by an import of a module, in the order in which it is.
    pub fn loaded(&self, by: &str, loads: &[String]) -> Loaded {
        let mut loaded = Loaded { asking: self.modules.get(by).copied(), ..Loaded::default() };
        let mut waiting: Vec<u32> = loads.iter().rev().flat_map(|load| self.found(load)).collect();
        while let Some(module) = waiting.pop() {
            let begun = |asking: u32| asking == module || self.holds(module, asking);
            if !loaded.modules.insert(module) || loaded.asking.is_some_and(begun) {
                continue;
            }
            if let Some(circle) = self.circles.get(module as usize).copied().flatten() {
                loaded.entries.entry(circle).or_insert(module);
            }
            waiting.extend(self.loads.get(module as usize).into_iter().flatten().rev());
        }
        loaded
    }
}

/// What parts the names in a module's own: they are called by their paths from the root, or by names with points between them.
fn between(module: &str) -> char {
    if module.starts_with('/') { '/' } else { '.' }
}

fn last(module: &str) -> &str {
    module.rsplit(between(module)).next().unwrap_or(module)
}

/// A node on the way of the search for circles.
struct Step {
    node: u32,
    next: usize,
}

/// For each node of a graph the circle it is in: nodes that reach each other, found in linear time (Tarjan, "Depth-first search and linear
/// graph algorithms", 1972), without recursion.
fn circles(edges: &[Vec<u32>]) -> Vec<Option<u32>> {
    const NEW: u32 = u32::MAX;
    let mut circles = vec![None; edges.len()];
    let (mut order, mut low) = (vec![NEW; edges.len()], vec![NEW; edges.len()]);
    let (mut open, mut is_open) = (Vec::new(), vec![false; edges.len()]);
    let mut count = 0;
    for start in 0..edges.len() as u32 {
        if order[start as usize] != NEW {
            continue;
        }
        let mut way = vec![Step { node: start, next: 0 }];
        while let Some(step) = way.last_mut() {
            let at = step.node as usize;
            if step.next == 0 {
                (order[at], low[at]) = (count, count);
                count += 1;
                open.push(step.node);
                is_open[at] = true;
            }
            if let Some(to) = edges[at].get(step.next).map(|to| *to as usize) {
                step.next += 1;
                if order[to] == NEW {
                    way.push(Step { node: to as u32, next: 0 });
                } else if is_open[to] {
                    low[at] = low[at].min(order[to]);
                }
                continue;
            }
            way.pop();
            if let Some(before) = way.last().map(|before| before.node as usize) {
                low[before] = low[before].min(low[at]);
            }
            if low[at] == order[at] {
                let first = open.iter().rposition(|node| *node as usize == at).unwrap_or(0);
                let round = open.split_off(first);
                let is_circle = round.len() > 1;
                for node in round {
                    is_open[node as usize] = false;
                    circles[node as usize] = is_circle.then_some(order[at]);
                }
            }
        }
    }
    circles
}
