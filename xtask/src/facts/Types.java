import java.lang.reflect.Modifier;
import java.net.URI;
import java.nio.file.*;
import java.util.*;

/** Prints the public types of every exported package of the Java runtime it runs on: a package a line. */
public class Types {
    public static void main(String[] arguments) throws Exception {
        TreeMap<String, TreeSet<String>> packages = new TreeMap<>();
        for (Module module : ModuleLayer.boot().modules()) {
            Set<String> open = new TreeSet<>();
            module.getDescriptor()
                    .exports()
                    .stream()
                    .filter(export -> !export.isQualified())
                    .forEach(export -> open.add(export.source()));
            Path root = FileSystems.getFileSystem(URI.create("jrt:/")).getPath("modules", module.getName());
            try (var files = Files.walk(root)) {
                for (Path file : (Iterable<Path>) files::iterator) {
                    String name = root.relativize(file).toString();
                    if (!name.endsWith(".class") || name.contains("-info") || name.contains("$")) continue;
                    name = name.substring(0, name.length() - 6).replace('/', '.');
                    int dot = name.lastIndexOf('.');
                    if (dot < 0 || !open.contains(name.substring(0, dot))) continue;
                    Class<?> type = Class.forName(name, false, ClassLoader.getSystemClassLoader());
                    if (Modifier.isPublic(type.getModifiers())) {
                        packages.computeIfAbsent(name.substring(0, dot), key -> new TreeSet<>())
                                .add(name.substring(dot + 1));
                    }
                }
            }
        }
        System.out.println("# Java " + Runtime.version().feature() + ": public types by package");
        packages.forEach((name, types) -> System.out.println(name + " " + String.join(" ", types)));
    }
}
