using System;
using System.Collections.Generic;
using System.IO;
using System.Linq;
using System.Reflection;
using System.Runtime.CompilerServices;

/// Prints what the namespaces of the assemblies in some folders offer: public types, and extension methods with a dot in front.
public static class Namespaces
{
    static Assembly Load(string file)
    {
        try { return Assembly.Load(AssemblyName.GetAssemblyName(file)); }
        catch (Exception) { return Assembly.LoadFrom(file); }
    }

    public static void Main(string[] folders)
    {
        var offered = new SortedDictionary<string, SortedSet<string>>(StringComparer.Ordinal);
        foreach (var file in folders.SelectMany(folder => Directory.GetFiles(folder, "*.dll")))
        {
            Type[] types;
            try { types = Load(file).GetExportedTypes(); }
            catch (Exception) { continue; }
            foreach (var type in types.Where(type => type.Namespace != null && !type.IsNested))
            {
                if (!(type.Namespace == "System" || type.Namespace.StartsWith("System."))) continue;
                SortedSet<string> names;
                if (!offered.TryGetValue(type.Namespace, out names))
                    offered[type.Namespace] = names = new SortedSet<string>(StringComparer.Ordinal);
                names.Add(type.Name.Split('`')[0]);
                if (!type.IsAbstract || !type.IsSealed) continue;
                try
                {
                    foreach (var method in type.GetMethods(BindingFlags.Public | BindingFlags.Static))
                        if (method.GetCustomAttributesData()
                            .Any(data => data.Constructor.DeclaringType.Name == "ExtensionAttribute"))
                            names.Add("." + method.Name);
                }
                catch (Exception) { }
            }
        }
        foreach (var pair in offered) Console.WriteLine(pair.Key + " " + string.Join(" ", pair.Value));
    }
}
