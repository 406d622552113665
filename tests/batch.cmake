# Writes a source that compiles several tests at once: what they include is read once, then each stands in a
# namespace of its own, so that they may name their helpers alike.
#   cmake -DFILES=a.cpp,b.cpp -DOUTPUT=batch.cpp -P batch.cmake
string(REPLACE "," ";" FILES "${FILES}")
set(includes "")
set(bodies "")
foreach(file IN LISTS FILES)
    file(STRINGS ${file} lines REGEX "^#include")
    list(FILTER lines EXCLUDE REGEX "\\.moc\"")
    list(APPEND includes ${lines})
    get_filename_component(name ${file} NAME_WE)
    string(APPEND bodies "namespace of_${name} {\n#include \"${file}\"\n}\n")
endforeach()
list(REMOVE_DUPLICATES includes)
list(JOIN includes "\n" text)
file(WRITE ${OUTPUT} "#include <QtCore/qmetatype.h>\n#include <memory>\n${text}\n${bodies}")
